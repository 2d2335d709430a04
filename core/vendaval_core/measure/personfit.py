"""Whether a learner's answers hang together, and effort from response times.

l_z: Drasgow, Levine and Williams 1985. l_z*: Snijders 2001, at the mode of the posterior with its
own r₀. The power is low at ten answers: a low value is a question to ask, not a verdict. People
slip and guess without anything being wrong: `Slack` leaves room for that, with an upper asymptote
below 1 (Barton and Lord 1981) and a lower one above 0.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.language import gettext

from ..errors import OutOfRange
from .grid import Array
from .response import ResponseCurve

FEWEST_ANSWERS = 10
STRANGE = -2.0
STEPS = 100


@dataclass(frozen=True, slots=True)
class Answered:
    """One answer that is right (1) or wrong (0), to a question in a topic."""

    topic: int
    curve: ResponseCurve
    right: int


@dataclass(frozen=True, slots=True)
class PersonFit:
    """log_likelihood l₀ with its expectation and variance at the abilities `theta` (K,), in
    logits; l_z, and l_z* corrected for their being estimated."""

    theta: Array
    log_likelihood: float
    expectation: float
    variance: float
    lz: float
    lz_star: float
    answers: int

    @property
    def strange(self) -> bool:
        """Whether there are answers enough, and they fit ill enough, to ask the learner."""
        return self.answers >= FEWEST_ANSWERS and self.lz_star <= STRANGE


@dataclass(frozen=True, slots=True)
class Slack:
    """Chances, 0 to 1, that anybody misses what they know, and is right where they do not."""

    slips: float = 0.0
    guesses: float = 0.0


@dataclass(slots=True)
class _Arrays:
    topic: np.ndarray
    a: Array
    b: Array
    c: Array
    d: float
    x: Array

    def at(self, theta: Array) -> tuple[Array, Array]:
        """Chance of right, and its derivative by ability."""
        knows = 1 / (1 + np.exp(-self.a * (theta[self.topic] - self.b)))
        room = self.d - self.c
        return self.c + room * knows, room * self.a * knows * (1 - knows)


def _arrays(answers: Sequence[Answered], slack: Slack = Slack()) -> _Arrays:
    if not answers:
        raise OutOfRange(gettext("fit needs at least one answer"))
    if any(answer.curve.steps for answer in answers):
        raise OutOfRange(gettext("fit is for answers that are right or wrong"))
    columns = [[getattr(answer.curve, name) for answer in answers] for name in "abc"]
    a, b, c = (np.array(column, dtype=float) for column in columns)
    topic = np.array([answer.topic for answer in answers])
    right = np.array([float(answer.right) for answer in answers])
    return _Arrays(topic, a, b, np.maximum(c, slack.guesses), 1 - slack.slips, right)


def _statistics(arrays: _Arrays, theta: Array, r0: Array) -> PersonFit:
    chance, slope = arrays.at(theta)
    chance = np.clip(chance, 1e-12, 1 - 1e-12)
    spread = chance * (1 - chance)
    weight = np.log(chance / (1 - chance))
    observed = float(np.sum(arrays.x * np.log(chance) + (1 - arrays.x) * np.log1p(-chance)))
    expected = float(np.sum(chance * np.log(chance) + (1 - chance) * np.log1p(-chance)))
    variance = float(np.sum(weight**2 * spread))
    r = slope / spread
    size = len(theta)
    above = np.bincount(arrays.topic, slope * weight, minlength=size)
    below = np.bincount(arrays.topic, slope * r, minlength=size)
    share = np.divide(above, below, out=np.zeros(size), where=below > 0)
    corrected = weight - share[arrays.topic] * r
    corrected_variance = float(np.sum(corrected**2 * spread))
    shift = float(share @ r0)
    difference = observed - expected
    return PersonFit(
        theta,
        observed,
        expected,
        variance,
        difference / float(np.sqrt(max(variance, 1e-12))),
        (difference + shift) / float(np.sqrt(max(corrected_variance, 1e-12))),
        len(arrays.x),
    )


def _solved(arrays: _Arrays, mean: Array, precision: Array) -> Array:
    """Mode of the posterior, by Fisher scoring. precision 0 gives the maximum of the likelihood."""
    theta = mean.copy()
    for _ in range(STEPS):
        chance, slope = arrays.at(theta)
        spread = np.maximum(chance * (1 - chance), 1e-12)
        pull = slope / spread * (arrays.x - chance)
        pulls = np.bincount(arrays.topic, pull, minlength=len(theta))
        gradient = pulls + precision @ (mean - theta)
        information = np.diag(np.bincount(arrays.topic, slope**2 / spread, minlength=len(theta)))
        step = np.linalg.solve(information + precision + 1e-9 * np.eye(len(theta)), gradient)
        theta = theta + np.clip(step, -1.0, 1.0)
        if np.abs(step).max() < 1e-10:
            break
    return theta


def fit_at(answers: Sequence[Answered], theta: Array) -> PersonFit:
    """Return the statistics at given abilities (K,), logits, with r₀ = 0."""
    return _statistics(_arrays(answers), theta, np.zeros(len(theta)))


def fit_at_maximum(answers: Sequence[Answered]) -> PersonFit:
    """Return the statistics of one topic at the maximum of the likelihood, which does not exist if
    all answers are right or all wrong."""
    arrays = _arrays(answers)
    if arrays.x.min() == arrays.x.max():
        raise OutOfRange(gettext("all right or all wrong has no maximum"))
    theta = _solved(arrays, np.zeros(1), np.zeros((1, 1)))
    return _statistics(arrays, theta, np.zeros(1))


def fit_at_mode(
    answers: Sequence[Answered],
    mean: Array,
    covariance: Array,
    slack: Slack = Slack(),
) -> PersonFit:
    """Return the statistics at the mode of the posterior over K topics.

    mean (K,), covariance (K, K): the prior, logits. r₀ = Σ⁻¹(μ − θ̂), which is conservative for
    several topics.
    """
    arrays = _arrays(answers, slack)
    precision = np.asarray(np.linalg.inv(covariance), dtype=np.float64)
    theta = _solved(arrays, mean, precision)
    return _statistics(arrays, theta, precision @ (mean - theta))


def effort(rapid: Sequence[bool]) -> float:
    """Return the share of answers, 0 to 1, that are not rapid; 1 if there are none (Wise and Kong
    2005)."""
    return 1.0 - sum(rapid) / len(rapid) if rapid else 1.0
