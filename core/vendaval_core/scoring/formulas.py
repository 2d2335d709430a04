"""Marks of formulas."""

from __future__ import annotations

from ..items.keys import ExpressionKey
from .mark import RIGHT, PartMark, Verdict, unreadable
from .workers import formula_workers


def mark_expression(key: ExpressionKey, response: str) -> PartMark:
    """A formula compared as mathematics, in the form that is asked for."""
    found = formula_workers.ask((key.answer, response, key.symbols, key.form))
    if found is None:
        return unreadable("That takes too long to work out. Write it more simply.")
    verdict, canonical, says = found
    if verdict == "unreadable":
        return unreadable(says)
    if verdict == "right":
        return PartMark(Verdict.RIGHT, canonical, None, RIGHT)
    if verdict == "wrong":
        for miss in key.near_misses:
            other = formula_workers.ask((str(miss.value), response, key.symbols, "any"))
            if other is not None and other[0] == "right":
                return PartMark(Verdict.WRONG, canonical, miss.says)
    return PartMark(Verdict.WRONG, canonical, says or None)
