"""Other programs: a store for learning records, keys for scripts, addresses told of events."""
