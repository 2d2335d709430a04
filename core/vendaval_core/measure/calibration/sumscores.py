"""S-X²: whether those with the same sum score answer an item as its curve says.

Orlando and Thissen (2000). Sum scores are counted, not estimated, so that unlike a mean square of
residuals it sees an item with the wrong key although its slope was fitted. The chances of sum
scores follow the recursion of Lord and Wingersky (1984).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp
from scipy.stats import chi2

from ..grid import Array
from .curves import tables
from .marginal import MarginalFit
from .table import ResponseTable

FEWEST_PERSONS = 100
FEWEST_ITEMS = 4
MOST_ITEMS = 150
"""The time grows with the third power of them."""
LEAST_EXPECTED = 1.0


@dataclass(frozen=True, slots=True)
class SumScoreFit:
    """S-X² of an item, its degrees of freedom, and the chance of one as great."""

    value: float
    freedom: int
    chance: float


def score_chances(right: Array) -> Array:
    """Return the chances of each sum score at each node (J + 1, Q), from those of right answers
    (J, Q)."""
    found = np.ones((1, right.shape[1]))
    for chance in right:
        longer = np.zeros((len(found) + 1, right.shape[1]))
        longer[:-1] += found * (1 - chance)
        longer[1:] += found * chance
        found = longer
    return found


def sum_score_fit(fit: MarginalFit, table: ResponseTable) -> list[SumScoreFit | None]:
    """Return S-X² of every item. None for all where the table is incomplete, has outcomes beside
    right and wrong, or is too small or too wide; and for an item with no degree of freedom left."""
    persons, items = table.scores.shape
    fits = persons >= FEWEST_PERSONS and FEWEST_ITEMS <= items <= MOST_ITEMS
    if not fits or not table.complete or int(table.categories.max()) > 2:
        return [None] * items
    right = np.exp(tables(fit.parameters, fit.shape, fit.nodes).logs[:, 1])
    logs = -0.5 * fit.nodes**2
    weights = np.exp(logs - logsumexp(logs))
    sums = table.scores.sum(axis=1)
    of_all = score_chances(right) @ weights
    free = np.isfinite(fit.errors).sum(axis=1)
    found: list[SumScoreFit | None] = []
    for item in range(items):
        others = score_chances(np.delete(right, item, axis=0))
        scores = np.arange(1, items)
        expected = (others[scores - 1] * right[item]) @ weights / of_all[scores]
        there = np.array([np.sum(sums == score) for score in scores])
        got = np.array([np.sum(table.scores[sums == score, item]) for score in scores])
        found.append(_chi_square(there, got, expected, int(free[item])))
    return found


def _chi_square(
    there: NDArray[np.int64], got: NDArray[np.int64], expected: Array, free: int
) -> SumScoreFit | None:
    """Groups of neighbouring scores, each large enough, held against what is expected of them."""
    value, groups = 0.0, 0
    many = have = hope = 0.0
    for number, right, chance in zip(there, got, expected, strict=True):
        many, have, hope = many + number, have + right, hope + number * chance
        if min(hope, many - hope) >= LEAST_EXPECTED:
            value += (have - hope) ** 2 / (hope * (1 - hope / many))
            groups += 1
            many = have = hope = 0.0
    freedom = groups - free
    if freedom < 1:
        return None
    return SumScoreFit(value, freedom, float(chi2.sf(value, freedom)))
