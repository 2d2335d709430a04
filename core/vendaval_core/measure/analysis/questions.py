"""What each question of a test did: share of the points, how it goes with the rest, and by thirds.

Corrected item-total correlation: common practice, for example Nunnally (1978), Psychometric theory.
Thirds of the attempts by their totals: common practice, no published source; Kelley (1939) takes
the upper and lower 27 per cent.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..grid import Array

ENOUGH = 10
THIRDS = 3


@dataclass(frozen=True, slots=True)
class QuestionFigures:
    """One question. share: of the points, 0 to 1, with its standard error. rest: correlation with
    the points of all other questions; None where either does not differ. thirds: share of the
    points in the lower, middle and upper third of the attempts."""

    share: float
    error: float
    rest: float | None
    thirds: tuple[float, float, float]


def by_thirds(totals: Array) -> list[np.ndarray]:
    """Return the attempts of the lower, middle and upper third by their totals (n,); who has the
    same total stays in the order given."""
    order = np.argsort(totals, kind="stable")
    return list(np.array_split(order, THIRDS))


def question_figures(shares: Array, rest: Array, totals: Array) -> QuestionFigures:
    """Return the figures of one question.

    shares (n,): of its points, 0 to 1, by attempt, n at least 3. rest (n,): of the points of all
    other questions. totals (n,): results, by which the thirds are made.
    """
    together = None
    if shares.std() > 0 and rest.std() > 0:
        together = float(np.corrcoef(shares, rest)[0, 1])
    low, middle, high = (float(shares[who].mean()) for who in by_thirds(totals))
    error = float(shares.std(ddof=1) / len(shares) ** 0.5)
    return QuestionFigures(float(shares.mean()), error, together, (low, middle, high))


def answers_by_thirds(
    answers: Sequence[str], thirds: Sequence[np.ndarray]
) -> dict[str, tuple[int, int, int]]:
    """Return how often each answer was given in the lower, middle and upper third, the commonest
    first. answers: of each attempt, "" for none."""
    counts = [Counter(answers[int(n)] for n in who) for who in thirds]
    whole = Counter(answers)
    return {
        answer: (counts[0][answer], counts[1][answer], counts[2][answer])
        for answer, _ in whole.most_common()
    }
