"""Questions in formats that other programs read and write."""
