"""A family of a single number on all its versions, as the search for slips takes it."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np

from vendaval_core.authoring.expressions import expanded
from vendaval_core.errors import CoreError
from vendaval_core.items.kinds.number import NumberPart
from vendaval_core.items.model import Family
from vendaval_core.items.template import SLOT
from vendaval_core.items.versions import draw_variables

from .arithmetic import Array, NotArithmetic, parsed, worked_out
from .search import Known

FEWEST_VERSIONS = 8
CIRCLE = 360


@dataclass(frozen=True, slots=True)
class Numbers:
    """A family of a single number on its versions."""

    known: Known
    right: Array
    digits: int
    misses: dict[str, Array]


def numbers_of(family: Family) -> Numbers | None:
    """A family whose one part is a number, None for others and for those with tables in them."""
    if len(family.parts) != 1 or not isinstance(family.parts[0], NumberPart):
        return None
    part, versions = family.parts[0], family.versions
    if versions < FEWEST_VERSIONS:
        return None
    try:
        drawn = [draw_variables(family, seed) for seed in range(1, versions + 1)]
        values = {
            name: np.array([row[name] for row in drawn], float)
            for name in drawn[0]
            if all(isinstance(row[name], int | float) for row in drawn)
        }
        node = parsed(expanded(family, str(part.answer)))
        right = worked_out(node, values, versions)
        misses = {
            str(miss.answer): worked_out(parsed(str(miss.answer)), values, versions)
            for miss in part.near_misses
        }
    except (CoreError, NotArithmetic, KeyError, TypeError):
        return None
    known = Known(
        node,
        values,
        _shown(family, values, versions),
        0.5 * 10.0**-part.digits,
        tuple(misses.values()),
        CIRCLE if part.unit == "°" and "%" in str(part.answer) else 0,
    )
    return Numbers(known, right, part.digits, misses)


_FORMAT = re.compile(r"(?:fixed|clock|duration|three_figures|two_figures|count|text|round)\((.*)\)")


def _shown(family: Family, values: dict[str, Array], versions: int) -> dict[str, Array]:
    """What the question shows, by the expression for it: plain names, and others in brackets."""
    found = {}
    for slot in SLOT.findall(family.prompt):
        expression = slot.strip()
        if form := _FORMAT.fullmatch(expression):
            expression = form[1].partition(",")[0].strip()
        try:
            shown = worked_out(parsed(expression), values, versions)
        except NotArithmetic:
            continue
        if np.isfinite(shown).all():
            found[expression if expression in values else f"({expression})"] = shown
    return found
