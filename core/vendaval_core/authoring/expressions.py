"""Where a family's file holds expressions, and the same family with other ones there."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from vendaval_core.errors import VariableNameError
from vendaval_core.items.model import DerivedVariable, Family
from vendaval_core.items.template import SLOT
from vendaval_core.language import gettext

Plain = Any
Change = Callable[[str], str]

_NAME = re.compile(r"[a-z][a-z0-9_]{0,29}")
# Fields that are an expression, or lists of them; all others are texts with some between brackets.
WHOLE = frozenset({
    *("answer", "tolerance", "is", "range", "constraints", "right", "x", "y", "at", "circle"),
    *("rect", "values", "low", "high", "step", "start", "least", "most"),
})  # fmt: skip


def with_expressions(data: Plain, change: Change, field: str = "", *, text: bool = False) -> Plain:
    """A copy of a family's fields with each expression changed, in the order of the file. field:
    that `data` stands in. text: whether a field that may be an expression is a text here."""
    if isinstance(data, dict):
        return {
            key: with_expressions(value, change, _named(key, field), text=_is_text(data, key))
            for key, value in data.items()
        }
    if isinstance(data, list):
        return [with_expressions(one, change, field, text=text) for one in data]
    if not isinstance(data, str):
        return data
    if field in WHOLE and not text and "[[" not in data:
        return change(data)
    return SLOT.sub(lambda found: f"[[{change(found[1])}]]", data)


def _named(key: str, field: str) -> str:
    return field if field == "values" else key


def _is_text(holder: dict[str, Plain], key: str) -> bool:
    """A drop-down’s right one is the text of a choice; a formula is a template of its own, and so
    are the wrong ones foreseen for it."""
    if key == "right":
        return "text" not in holder
    return key == "answer" and holder.get("value") == "expression"


def expressions_in(data: Plain) -> list[str]:
    """Expressions of a family's fields, each once, in the order of the file."""
    found: dict[str, None] = {}

    def note(expression: str) -> str:
        found.setdefault(expression)
        return expression

    with_expressions(data, note)
    return list(found)


DEEPEST = 8


def expanded(family: Family, formula: str) -> str:
    """A formula with what is worked out put in place of each variable that is."""
    derived = {v.name: v.expression for v in family.variables if isinstance(v, DerivedVariable)}
    for _ in range(DEEPEST):
        for name, expression in derived.items():
            formula = re.sub(rf"\b{name}\b", f"({expression})", formula)
    return formula


def renamed(data: dict[str, Plain], old: str, new: str) -> dict[str, Plain]:
    """A family's fields with a variable called otherwise, wherever it stands. VariableNameError
    when it can't be called that."""
    variables = data.get("variables") or {}
    if old not in variables:
        raise VariableNameError(gettext("There is no such variable."))
    if not _NAME.fullmatch(new):
        says = gettext("A name begins with a small letter and has letters, digits and _.")
        raise VariableNameError(says)
    if new != old and new in variables:
        raise VariableNameError(gettext("Another variable has that name."))
    whole = re.compile(rf"\b{re.escape(old)}\b(?!\s*\()")
    changed = with_expressions(data, lambda expression: whole.sub(new, expression))
    named = {new if name == old else name: one for name, one in changed["variables"].items()}
    return {**changed, "variables": named}
