"""Whether a question is harder for one group than for another of the same standing.

Differential item functioning by Mantel and Haenszel (1959), Statistical aspects of the analysis of
data from retrospective studies of disease, JNCI 22, 719-748; Holland and Thayer (1988) for items
matched by total score; standard error of the logarithm: Robins, Breslow and Greenland (1986). The
classes A, B and C are those that large testing programmes use (Zieky 1993; from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from math import log, sqrt

import numpy as np
from scipy.special import ndtr
from scipy.stats import chi2

from ..grid import Array

# With fewer in either group nothing is said.
ENOUGH = 50
DELTA = -2.35
SMALL, LARGE = 1.0, 1.5
SURE = 0.05


class Difference(StrEnum):
    """A: none or slight; B: moderate; C: large."""

    SLIGHT = "A"
    MODERATE = "B"
    LARGE = "C"


@dataclass(frozen=True, slots=True)
class MantelHaenszel:
    """odds: common odds ratio, of the reference group being right against the other. squared: the
    test statistic with its correction for continuity; chance: of one as large, 0 to 1. delta: minus
    2.35 times the logarithm of the odds, below 0 where the question is harder for the focal group;
    error: its standard error."""

    odds: float
    squared: float
    chance: float
    delta: float
    error: float

    @property
    def size(self) -> Difference:
        """How large the difference is."""
        away = abs(self.delta)
        if away < SMALL or self.chance >= SURE:
            return Difference.SLIGHT
        beyond = float(ndtr((SMALL - away) / self.error))
        return Difference.LARGE if away >= LARGE and beyond < SURE else Difference.MODERATE


def mantel_haenszel(tables: Array) -> MantelHaenszel | None:
    """Return the common odds ratio of 2 × 2 tables, one for each level of standing.

    tables (s, 2, 2): counts by group (reference, focal) and outcome (right, wrong). None where it
    cannot be worked out: everybody right or wrong at every level, or only one group there.
    """
    a, b = tables[:, 0, 0], tables[:, 0, 1]
    c, d = tables[:, 1, 0], tables[:, 1, 1]
    n = tables.sum(axis=(1, 2))
    there = n > 1
    a, b, c, d, n = (one[there].astype(float) for one in (a, b, c, d, n))
    r, s = a * d / n, b * c / n
    if r.sum() <= 0 or s.sum() <= 0:
        return None
    odds = float(r.sum() / s.sum())
    expected = (a + b) * (a + c) / n
    variance = (a + b) * (c + d) * (a + c) * (b + d) / (n**2 * (n - 1))
    squared = float((abs((a - expected).sum()) - 0.5) ** 2 / variance.sum())
    p, q = (a + d) / n, (b + c) / n
    of_log = (
        (p * r).sum() / (2 * r.sum() ** 2)
        + (p * s + q * r).sum() / (2 * r.sum() * s.sum())
        + (q * s).sum() / (2 * s.sum() ** 2)
    )
    return MantelHaenszel(
        odds,
        squared,
        float(chi2.sf(squared, 1)),
        DELTA * log(odds),
        abs(DELTA) * sqrt(float(of_log)),
    )


def matched_tables(right: Array, totals: Array, focal: Array) -> Array:
    """Return the 2 × 2 tables of a question by total score.

    right (n,): 0 or 1. totals (n,): points, the question itself among them (Holland and Thayer
    1988). focal (n,): whether each is of the focal group.
    """
    levels = np.unique(totals)
    found = np.zeros((len(levels), 2, 2))
    place = np.searchsorted(levels, totals)
    np.add.at(found, (place, focal.astype(int), 1 - right.astype(int)), 1.0)
    return found
