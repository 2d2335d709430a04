"""Marks of formulas."""

from __future__ import annotations

from ..formulas.workers import Found, Work, formula_workers
from ..keys import ExpressionKey
from ..mark import RIGHT, PartMark, Verdict, unreadable

NOT_TAKEN = {
    "busy": "Too many formulas are being worked out at this moment. Send it again.",
    "not_ready": "Formulas cannot be worked out at this moment. Send it again in a minute.",
    "one_at_a_time": "Another formula of yours is still being worked out. Send it again.",
}


def mark_expression(key: ExpressionKey, response: str) -> PartMark:
    """A formula compared as mathematics, in the form that is asked for."""
    misses = tuple(str(miss.value) for miss in key.near_misses)
    found = formula_workers.ask(Work(response, key.answer, misses, key.symbols, key.form))
    if not isinstance(found, Found):
        return unreadable(NOT_TAKEN[found])
    if found.verdict == "unreadable":
        return unreadable(found.says)
    if found.verdict == "right":
        return PartMark(Verdict.RIGHT, found.canonical, None, RIGHT)
    says = key.near_misses[found.miss].says if found.miss >= 0 else found.says
    return PartMark(Verdict.WRONG, found.canonical, says or None)
