"""A formula found from examples: searched for, the smallest first, and never guessed silently.

`space` makes every small expression once, `fits` finds those that explain the examples, joining two
where one is not enough, and `asking` says which example would tell apart what is left.
"""
