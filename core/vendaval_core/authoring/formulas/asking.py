"""The question back: whether a formula can be taken, and which example would tell apart what is
left. Nothing is taken while two formulas that are about as likely disagree anywhere."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .fits import Fit
from .space import apart

MOST_EXAMPLES = 6
FEWEST_EXAMPLES = 2
# Formulas dearer by no more than this are still about as likely.
ABOUT_AS_LIKELY = 3.0
# By how many bits their number grows with their price, as counted, and what is left to chance.
BITS_A_PRICE, SPARE_BITS = 1.1, 4.0


@dataclass(frozen=True, slots=True)
class Verdict:
    """taken: the formula, None while there is none. ask: place of the version whose answer tells
    most, None when nothing is left to ask. likely: formulas that still explain everything."""

    taken: Fit | None
    ask: int | None
    likely: tuple[Fit, ...] = ()


def judged(
    found: Sequence[Fit], known: int, within: float, turn: int, left: Sequence[int]
) -> Verdict:
    """What to make of the formulas that explain the examples. known: how many examples there are.
    within: what rounding leaves open. turn: see `Answers`. left: places of versions that can still
    be asked for."""
    if not found:
        return Verdict(None, None)
    best = found[0]
    likely = [fit for fit in found if fit.price <= best.price + ABOUT_AS_LIKELY]
    rivals = tuple(fit for fit in likely[1:] if _differ(best, fit, within, turn).any())
    enough = known >= FEWEST_EXAMPLES + (not best.uses_all)
    if not rivals and enough and sure(best, known, within):
        return Verdict(best, None)
    if known >= MOST_EXAMPLES or not left:
        return Verdict(None, None)
    return Verdict(None, telling(likely, within, turn, left), tuple(likely))


def sure(best: Fit, known: int, within: float) -> bool:
    """Whether chance would hardly have made a formula of this price explain all the examples. Each
    tells as many bits as answers of that size have; formulas grow in number with their price."""
    given = best.values[:known]
    size = max(float(np.ptp(best.values)), 0.2 * float(np.abs(given).max()), 2 * within)
    told = known * math.log2(1 + size / (2 * within))
    return told >= BITS_A_PRICE * best.price + SPARE_BITS


def telling(likely: Sequence[Fit], within: float, turn: int, left: Sequence[int]) -> int:
    """The version on which formulas differ most, the likelier ones counting more."""
    weights = np.array([2.0 ** -(fit.price - likely[0].price) for fit in likely])
    values = np.array([[fit.values[place] for place in left] for fit in likely])
    if turn:
        values = np.mod(values, turn)
    size = max(2 * within, 1e-9)
    best, most = left[0], -1.0
    for column, place in enumerate(left):
        groups: dict[float, float] = {}
        for value, weight in zip(np.round(values[:, column] / size), weights, strict=True):
            groups[float(value)] = groups.get(float(value), 0.0) + float(weight)
        shares = np.array(list(groups.values())) / weights.sum()
        told = float(-(shares * np.log(shares)).sum())
        if told > most + 1e-9:
            best, most = place, told
    return best


def _differ(one: Fit, other: Fit, within: float, turn: int) -> NDArray[np.bool_]:
    return ~(apart(one.values, other.values, turn) <= 2 * within + 1e-9)
