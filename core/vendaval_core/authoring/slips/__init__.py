"""The slip behind wrong answers that nobody foresaw.

`arithmetic` works formulas out on many versions at once, `changes` makes small changes to the right
one, and `search` names the change that explains far more answers than chance would.
"""
