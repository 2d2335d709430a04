"""Response curves: how likely each outcome of a question is at each ability.

Sources: two- and three-parameter logistic, Birnbaum 1968 (no 1.7); generalised partial credit,
Muraki 1992. The meaning of "not taught" and the difficulty steps are judgements of this project.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.special import expit

from vendaval_core.language import gettext

from ..errors import OutOfRange
from .grid import Array

DIFFICULTY_STEPS = (-2.0, -1.2, -0.4, 0.4, 1.2)
DISCRIMINATION = 1.3
STEP_SPREAD = 0.5
MOST_CATEGORIES = 4
NOT_TAUGHT: Literal["not_taught"] = "not_taught"

Outcome = int | Literal["not_taught"]


@dataclass(frozen=True, slots=True)
class ResponseCurve:
    """One family's curve, averaged over its versions.

    a: discrimination per logit, above 0. b: difficulty in logits. c: chance of a lucky right
    answer, 0 <= c < 1. steps: step difficulties in logits of a question with part credit
    (two or more, then c must be 0); empty for right or wrong.
    """

    a: float
    b: float
    c: float = 0.0
    steps: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        if not self.a > 0 or not 0 <= self.c < 1:
            raise OutOfRange(
                gettext("a curve needs a > 0 and 0 <= c < 1, not a={a}, c={c}").format(
                    a=self.a, c=self.c
                )
            )
        if self.steps and self.c:
            raise OutOfRange(gettext("a curve with part credit has no guessing chance"))

    @property
    def categories(self) -> int:
        """Number of outcomes, 2 for right or wrong."""
        return len(self.steps) + 1 if self.steps else 2

    def probabilities(self, theta: Array) -> Array:
        """Chance of each outcome 0..m-1 at each of n abilities (logits). Shape (m, n)."""
        if self.steps:
            terms = self.a * (theta[None, :] - np.asarray(self.steps)[:, None])
            logits = np.vstack([np.zeros_like(theta), np.cumsum(terms, axis=0)])
            weights = np.exp(logits - logits.max(axis=0))
            return np.asarray(weights / weights.sum(axis=0))
        right = self.c + (1 - self.c) * expit(self.a * (theta - self.b))
        return np.vstack([1 - right, right])

    def share(self, theta: Array) -> tuple[Array, Array]:
        """Mean and variance of the share of the points, 0 to 1, luck in it. Shape (n,) each."""
        chances, scores = self.probabilities(theta), np.arange(self.categories)
        shares = scores / (self.categories - 1)
        mean = shares @ chances
        return np.asarray(mean), np.asarray(shares**2 @ chances - mean**2)

    def knowing(self, theta: Array) -> Array:
        """Expected share of the points without guessing, 0 to 1, at each ability. Shape (n,)."""
        if self.steps:
            probabilities = self.probabilities(theta)
            return np.asarray(np.arange(self.categories) @ probabilities / (self.categories - 1))
        return np.asarray(expit(self.a * (theta - self.b)))

    def information(self, theta: Array) -> Array:
        """Fisher information on ability of one answer, per square logit. Shape (n,).

        Sources: Birnbaum (1968) for three parameters, Muraki (1993) for partial credit.
        """
        chances = self.probabilities(theta)
        if self.steps:
            scores = np.arange(self.categories)
            mean = scores @ chances
            return np.asarray(self.a**2 * (scores**2 @ chances - mean**2))
        known = (chances[1] - self.c) / (1 - self.c)
        return np.asarray(self.a**2 * chances[0] / chances[1] * known**2)

    def log_likelihood(self, outcome: Outcome, theta: Array) -> Array:
        """Log chance of one outcome at each ability. Shape (n,). OutOfRange if no such outcome."""
        if outcome == NOT_TAUGHT:
            return np.asarray(-np.logaddexp(0.0, self.a * (theta - self.b)))
        if not 0 <= outcome < self.categories:
            raise OutOfRange(
                gettext("outcome {outcome} of a question with {categories} outcomes").format(
                    outcome=outcome, categories=self.categories
                )
            )
        if self.steps:
            return np.asarray(np.log(self.probabilities(theta)[outcome]))
        signed = self.a * (theta - self.b)
        if outcome == 0:
            return np.asarray(math.log1p(-self.c) - np.logaddexp(0.0, signed))
        if self.c == 0:
            return np.asarray(-np.logaddexp(0.0, -signed))
        return np.asarray(np.log(self.c + (1 - self.c) * expit(signed)))


def category_count(parts: int) -> int:
    """Return the number of outcome categories of a question with `parts` parts: 2 for one part
    (right or wrong), at most 4."""
    return 2 if parts == 1 else min(MOST_CATEGORIES, parts + 1)


def category_of(share: float, categories: int) -> int:
    """Return the category, 0 to `categories` - 1, for a share of the points (0 to 1). Categories
    are equally wide."""
    return min(categories - 1, int(share * categories + 1e-9))


def judged_curve(difficulty: int, parts: int, guess: float) -> ResponseCurve:
    """Return the curve for an author's judgement of difficulty, 1 easiest to 5 hardest. guess:
    chance of a lucky right answer, 0 to 1."""
    if not 1 <= difficulty <= len(DIFFICULTY_STEPS):
        raise OutOfRange(
            gettext("difficulty is 1 to 5, not {difficulty}").format(difficulty=difficulty)
        )
    b = DIFFICULTY_STEPS[difficulty - 1]
    if parts == 1:
        return ResponseCurve(DISCRIMINATION, b, guess)
    count = category_count(parts) - 1
    steps = tuple(b + STEP_SPREAD * (i - (count - 1) / 2) for i in range(count))
    return ResponseCurve(DISCRIMINATION, b, 0.0, steps)
