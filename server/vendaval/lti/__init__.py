"""Launches from platforms that assign work (LTI 1.3), and scores sent back to them."""
