"""A question in two sittings of a test: whether they differ by more than chance explains.

Two means are compared by their standard errors (Welch 1947, in large samples); with so many
questions only a difference that is also worth talking about is named. The limits are judgements.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt
from statistics import fmean, variance

FEWEST = 5
WORTH, ERRORS = 0.15, 2.0


def differs(here: Sequence[float], there: Sequence[float]) -> float | None:
    """Return by how much the mean share of the points is higher here than there, -1 to 1; None
    where chance could explain it, it is small, or one has fewer than five answers."""
    if min(len(here), len(there)) < FEWEST:
        return None
    away = fmean(here) - fmean(there)
    error = sqrt(variance(here) / len(here) + variance(there) / len(there))
    return away if abs(away) >= WORTH and abs(away) > ERRORS * error else None
