"""Marks that a person gives by criteria, or as points."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from vendaval_core.language import gettext

from ..items.kinds.protocol import Criterion


def points_of(criteria: Sequence[Criterion]) -> int:
    """Return the sum of the criteria's points."""
    return sum(one.points for one in criteria)


def criteria_problems(
    criteria: Sequence[Criterion], given: Mapping[int, Fraction]
) -> dict[str, str]:
    """Return which given points are not allowed, by the criterion's number from 0, with the
    reason."""
    found = {}
    for number, points in given.items():
        if not 0 <= number < len(criteria):
            found[str(number)] = gettext("there is no such criterion")
        elif not 0 <= points <= criteria[number].points:
            found[str(number)] = gettext("0 to {points} points").format(
                points=criteria[number].points
            )
    return found


def criteria_share(criteria: Sequence[Criterion], given: Mapping[int, Fraction]) -> Fraction:
    """Return the share of the points given, 0 to 1. A criterion without given points gets none."""
    return sum(given.values(), Fraction(0)) / points_of(criteria)
