"""Marks that a person gives by criteria, or as points."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from vendaval_core.language import gettext

from ..items.kinds.protocol import Criterion


def points_of(criteria: Sequence[Criterion]) -> int:
    """Points that criteria come to together."""
    return sum(one.points for one in criteria)


def criteria_problems(
    criteria: Sequence[Criterion], given: Mapping[int, Fraction]
) -> dict[str, str]:
    """What of the points given cannot be, by number of the criterion from 0, with the reason."""
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
    """Share of a part, 0 to 1; a criterion that nothing was given for has none of its points."""
    return sum(given.values(), Fraction(0)) / points_of(criteria)
