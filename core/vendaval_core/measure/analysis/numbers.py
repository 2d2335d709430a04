"""How much of the spread of results is due to the numbers that learners had.

Variance between versions of a question by the analysis of variance with random effects, unequal
groups: (mean square between - mean square within) / n0 (Searle, Casella and McCulloch 1992,
Variance components, section 3.6; from memory). Who had which version is chance, so what learners
know spreads within and between versions alike.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..grid import Array

FEWEST, TOGETHER = 30, 10
COVERED = 0.5


@dataclass(frozen=True, slots=True)
class Versions:
    """One question: points reached (n,) and which version (n,) each learner had. of: points."""

    points: Array
    versions: Array
    of: float

    @property
    def comparable(self) -> bool:
        """Whether enough learners had a version that others had too."""
        kinds = len(np.unique(self.versions))
        return kinds > 1 and len(self.points) - kinds >= TOGETHER


def between_versions(question: Versions) -> float:
    """Return the variance between versions, in points squared; it may come out below 0."""
    kinds, place, sizes = np.unique(question.versions, return_inverse=True, return_counts=True)
    count, groups = len(question.points), len(kinds)
    means = np.bincount(place, weights=question.points) / sizes
    between = float((sizes * (means - question.points.mean()) ** 2).sum()) / (groups - 1)
    within = float(((question.points - means[place]) ** 2).sum()) / (count - groups)
    usual = (count - float((sizes**2).sum()) / count) / (groups - 1)
    return (between - within) / usual


def due_to_numbers(questions: Sequence[Versions], results: Array) -> float | None:
    """Return the share of the variance of the results (n,), in points, that is due to the numbers,
    0 to 1. None for fewer than thirty results, without spread, and where less than half of the
    points are in questions whose versions several learners had."""
    known = [one for one in questions if one.comparable]
    whole = sum(one.of for one in questions)
    spread = float(np.var(results, ddof=1)) if len(results) >= FEWEST else 0.0
    if spread <= 0 or sum(one.of for one in known) < COVERED * whole:
        return None
    return min(1.0, max(0.0, sum(between_versions(one) for one in known) / spread))
