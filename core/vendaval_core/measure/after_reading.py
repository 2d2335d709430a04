"""Whether learners do better than was expected of them after they read something.

What is counted is as in a trial: the next first try, beyond what a learner's chance was before it.
But nobody was given the text by lot: those who read it chose to, so this compares nothing fairly.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from scipy.special import expit, logit

from .trials import EFFECT_SD, EFFECTS, FEWEST, LEAST_CHANCE, POINTS


@dataclass(frozen=True, slots=True)
class AfterReading:
    """answers: tries that count. expected, right: mean chance and share that was right, 0 to 1.
    points: by how many of a hundred they were better than expected, at the mean chance: the middle
    of what is believed, and the ends of a 90% interval."""

    answers: int
    expected: float
    right: float
    points: float
    low: float
    high: float

    @property
    def helps_little(self) -> bool:
        """Whether so much is known that it can't be of much help."""
        return self.answers >= FEWEST and self.high < 100 * POINTS


def after_reading(tries: Iterable[tuple[float, bool]]) -> AfterReading | None:
    """What first tries after reading say; None if there are none. tries: the chance before each, 0
    to 1, and whether it was right. A logistic model with the chance as an offset and one effect,
    whose posterior is worked out on a grid."""
    found = list(tries)
    if not found:
        return None
    chances = np.clip([chance for chance, _ in found], LEAST_CHANCE, 1 - LEAST_CHANCE)
    right = np.array([was for _, was in found])
    signs = np.where(right, 1.0, -1.0)
    signed = signs[:, None] * (logit(chances)[:, None] + EFFECTS[None, :])
    log = -np.logaddexp(0.0, -signed).sum(axis=0) - 0.5 * (EFFECTS / EFFECT_SD) ** 2
    weights = np.exp(log - log.max())
    whole = np.cumsum(weights / weights.sum())
    mean = float(chances.mean())
    points = 100 * (expit(logit(mean) + EFFECTS) - mean)
    low, middle, high = (
        float(points[min(int(np.searchsorted(whole, at)), len(points) - 1)])
        for at in (0.05, 0.5, 0.95)
    )
    return AfterReading(len(found), mean, float(right.mean()), middle, low, high)
