"""How far the marks of a test can be trusted: reliability, its interval, and the error of a mark.

Cronbach (1951), Coefficient alpha and the internal structure of tests, Psychometrika 16, 297-334;
for right and wrong answers it is KR-20 (Kuder and Richardson 1937). Feldt (1965), The approximate
sampling distribution of Kuder-Richardson reliability coefficient twenty, Psychometrika 30, 357-370.
"""

from __future__ import annotations

from dataclasses import dataclass

from scipy.special import ndtr
from scipy.stats import f as f_distribution

from ..grid import Array

INTERVAL = 0.95


@dataclass(frozen=True, slots=True)
class Reliability:
    """alpha with its 95% interval; below 0 is possible. sd: of the totals, points. error: standard
    error of measurement, points. attempts, questions: it rests on."""

    alpha: float
    low: float
    high: float
    sd: float
    error: float
    attempts: int
    questions: int


def reliability(points: Array) -> Reliability | None:
    """Return how far the totals of a test can be trusted.

    points (n, k): of each attempt in each question, all there. None for fewer than two attempts or
    questions, and where all totals are the same.
    """
    attempts, questions = points.shape
    if attempts < 2 or questions < 2:
        return None
    total = float(points.sum(axis=1).var(ddof=1))
    if total <= 0:
        return None
    single = float(points.var(axis=0, ddof=1).sum())
    alpha = questions / (questions - 1) * (1 - single / total)
    low, high = feldt_interval(alpha, attempts, questions)
    sd = total**0.5
    return Reliability(alpha, low, high, sd, sd * (1 - alpha) ** 0.5, attempts, questions)


def feldt_interval(
    alpha: float, attempts: int, questions: int, level: float = INTERVAL
) -> tuple[float, float]:
    """Return the interval of alpha (Feldt 1965) at a level, 0 to 1."""
    free = attempts - 1, (attempts - 1) * (questions - 1)
    tail = (1 - level) / 2
    low, high = (
        1 - (1 - alpha) * float(f_distribution.ppf(quantile, *free))
        for quantile in (1 - tail, tail)
    )
    return low, high


def other_side(mark: float, pass_mark: float, mean: float, found: Reliability) -> float:
    """Return the chance, 0 to 1, that somebody with a mark would be on the other side of the pass
    mark in another test like this one.

    mark, pass_mark, mean: points. The next mark is expected at the mean plus alpha times the
    distance from it, and spreads by sd·√(1 − alpha²): standard error of prediction, Lord and Novick
    (1968), Statistical theories of mental test scores, section 3.8 (from memory).
    """
    alpha = min(max(found.alpha, 0.0), 1.0 - 1e-9)
    expected = mean + alpha * (mark - mean)
    passes = 1 - float(ndtr((pass_mark - expected) / (found.sd * (1 - alpha**2) ** 0.5)))
    return 1 - passes if mark >= pass_mark else passes
