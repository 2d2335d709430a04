"""Numbers that formulas of the trades are full of, for a course that has no list of its own."""

CONSTANTS = (1.0, 2.0, 3.0, 6.0, 10.0, 60.0, 90.0, 100.0, 180.0, 360.0)
