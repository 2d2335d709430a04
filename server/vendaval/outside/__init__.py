"""Learning records sent to a store outside."""
