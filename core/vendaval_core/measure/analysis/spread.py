"""How the results of a test are spread."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, median, stdev

TENTHS = 10


@dataclass(frozen=True, slots=True)
class Spread:
    """mean, median, sd: of the results, per cent; sd 0 of a single one. tenths (10,): how many are
    in each tenth of the scale, all of it in the last. passed: at or above the pass mark, None
    without one."""

    count: int
    mean: float
    median: float
    sd: float
    tenths: tuple[int, ...]
    passed: int | None


def spread_of(per_cent: Sequence[float], pass_mark: float | None) -> Spread | None:
    """Return how results are spread, None of no results. per_cent, pass_mark: 0 to 100."""
    if not per_cent:
        return None
    tenths = [0] * TENTHS
    for one in per_cent:
        tenths[max(0, min(TENTHS - 1, int(one * TENTHS / 100)))] += 1
    return Spread(
        len(per_cent),
        fmean(per_cent),
        median(per_cent),
        stdev(per_cent) if len(per_cent) > 1 else 0.0,
        tuple(tenths),
        None if pass_mark is None else sum(one >= pass_mark for one in per_cent),
    )
