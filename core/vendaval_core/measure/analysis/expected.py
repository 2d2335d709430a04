"""A result beside what a learner's levels let expect, and whether it stands out.

The limits are judgements.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

from ..grid import Array
from ..response import ResponseCurve

FEWEST = 10
FAR, ERRORS = 0.15, 2.5


@dataclass(frozen=True, slots=True)
class Placed:
    """A question that a learner had: its curve, its points, and what is believed of their ability
    in its topic, logits."""

    curve: ResponseCurve
    points: float
    mean: float
    sd: float


@dataclass(frozen=True, slots=True)
class Expected:
    """Share of the points, 0 to 1, and its standard deviation: by luck and by what isn't known of
    the abilities, which move together."""

    share: float
    sd: float

    def stands_out(self, share: float) -> bool:
        """Whether a result is far from this, and farther than chance explains."""
        return abs(share - self.share) >= FAR and abs(share - self.share) > ERRORS * self.sd


def expected_result(questions: Sequence[Placed]) -> Expected | None:
    """Return what these questions would bring; None without any."""
    of = sum(one.points for one in questions)
    if of <= 0:
        return None
    total = luck = moved = 0.0
    for one in questions:
        thetas: Array = np.array([one.mean - one.sd, one.mean, one.mean + one.sd])
        mean, variance = one.curve.share(thetas)
        total += one.points * float(mean[1])
        luck += one.points**2 * float(variance[1])
        moved += one.points * float(mean[2] - mean[0]) / 2
    return Expected(total / of, sqrt(luck + moved**2) / of)


def agreement(results: Sequence[float], expected: Sequence[float]) -> float | None:
    """Return the correlation of results with what was expected; None for fewer than ten, or where
    all of either are the same."""
    if len(results) < FEWEST or np.ptp(results) == 0 or np.ptp(expected) == 0:
        return None
    return float(np.corrcoef(results, expected)[0, 1])
