"""Which of two texts helps more: each learner gets one of them, and what counts is the first try on
the next other version, beyond what that learner's chance was before it.

A logistic model with that chance as an offset, one shift for both texts, and the effect of the
second over the first; the posterior of both on a grid, looked at after every answer. How often it
calls a difference that isn't there is known from simulation (`simulate --trials`): a common way to
decide as early as the data allow; the figures of the rule are judgements, tuned there.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit

from .level import LevelReading, LevelScale
from .response import ResponseCurve

Array = NDArray[np.float64]

EFFECT_SD, SHIFT_SD = 0.5, 0.3
EFFECTS = np.linspace(-1.6, 1.6, 81)
SHIFTS = np.linspace(-0.9, 0.9, 15)
# How sure one has to be, up to how many answers. It is spent where differences of 20 and of 10
# points are found: a false call at any look costs the same, so there is little at all others.
SURE = ((240, 0.9995), (300, 0.992), (850, 0.9985), (1000, 0.991))
MOST = 1000
ABOUT_EQUAL, POINTS = 0.90, 0.05
FEWEST = 60
LEAST_CHANCE = 0.02
# Gauss and Hermite's places and weights for a mean over a normal distribution.
_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(15)
ABILITY_NODES, ABILITY_WEIGHTS = _NODES, _WEIGHTS / _WEIGHTS.sum()


class Verdict(StrEnum):
    """How a trial stands. undecided: it ran out of time."""

    RUNNING = "running"
    FIRST = "first"
    SECOND = "second"
    EQUAL = "equal"
    UNDECIDED = "undecided"


@dataclass(frozen=True, slots=True)
class TrialAnswer:
    """A first try after one of the texts was opened. second: whether it was the second one.
    chance: of success before it, 0 to 1."""

    second: bool
    chance: float
    right: bool


@dataclass(frozen=True, slots=True)
class Standing:
    """verdict, with the effect of the second text over the first in points of a hundred at the mean
    chance: its middle, and the ends of a 90% interval. better: the chance that it is positive."""

    verdict: Verdict
    answers: int
    points: float
    low: float
    high: float
    better: float


def gets_second(trial: int, learner: int) -> bool:
    """Which text a learner gets, always the same one: by a digest of trial and learner."""
    return hashlib.sha256(f"trial:{trial}:{learner}".encode()).digest()[0] % 2 == 1


def sure_after(answers: int) -> float:
    """How sure one has to be that a text is better to call it so, after so many answers."""
    return next((sure for most, sure in SURE if answers <= most), SURE[-1][1])


class Posterior:
    """The belief about shift and effect, (15, 81), and the mean chance so far."""

    def __init__(self) -> None:
        shifts = -0.5 * (SHIFTS[:, None] / SHIFT_SD) ** 2
        self._log: Array = shifts - 0.5 * (EFFECTS[None, :] / EFFECT_SD) ** 2
        self.answers, self._chances = 0, 0.0

    def add(self, answer: TrialAnswer) -> None:
        """Take in one more answer."""
        chance = min(max(answer.chance, LEAST_CHANCE), 1 - LEAST_CHANCE)
        half = 0.5 if answer.second else -0.5
        signed = logit(chance) + SHIFTS[:, None] + half * EFFECTS[None, :]
        self._log -= np.logaddexp(0.0, -signed if answer.right else signed)
        self.answers += 1
        self._chances += chance

    def effect(self) -> Array:
        """The distribution of the effect, (81,)."""
        weights = np.exp(self._log - self._log.max()).sum(axis=0)
        return np.asarray(weights / weights.sum())

    def standing(self, *, over: bool = False) -> Standing:
        """How the trial stands. over: whether its time is up."""
        weights = self.effect()
        mean = self._chances / self.answers if self.answers else 0.5
        points = expit(logit(mean) + EFFECTS / 2) - expit(logit(mean) - EFFECTS / 2)
        better = float(weights[EFFECTS > 0].sum() + weights[EFFECTS == 0].sum() / 2)
        equal = float(weights[np.abs(points) <= POINTS].sum())
        whole = np.cumsum(weights)
        low, middle, high = (
            float(100 * points[min(int(np.searchsorted(whole, at)), len(points) - 1)])
            for at in (0.05, 0.5, 0.95)
        )
        verdict = Verdict.UNDECIDED if over else Verdict.RUNNING
        if self.answers >= FEWEST:
            if max(better, 1 - better) >= sure_after(self.answers):
                verdict = Verdict.SECOND if better > 0.5 else Verdict.FIRST
            elif equal >= ABOUT_EQUAL:
                verdict = Verdict.EQUAL
            elif self.answers >= MOST:
                verdict = Verdict.UNDECIDED
        return Standing(verdict, self.answers, middle, low, high, better)


def followed(answers: Iterable[TrialAnswer], *, over: bool = False) -> Standing:
    """How a trial stands after answers in order: it ends at the first verdict, and what comes
    later changes nothing."""
    posterior = Posterior()
    for answer in answers:
        posterior.add(answer)
        found = posterior.standing()
        if found.verdict is not Verdict.RUNNING:
            return found
    return posterior.standing(over=over)


@dataclass(frozen=True, slots=True)
class Simulated:
    """Trials of one true effect: shares by verdict, and answers to the verdict by quantile."""

    first: float
    second: float
    equal: float
    undecided: float
    median: float


def simulate(
    points: float, trials: int, most: int, seed: int = 1, *, off: float = 0.0
) -> Simulated:
    """Run trials with a true effect in points (0 to 1) at a mean chance of 0.6. most: answers to
    each. off: by how many logits chances are wrong for everybody."""
    random = np.random.default_rng(seed)
    ends: list[tuple[Verdict, int]] = []
    for _ in range(trials):
        chances = np.clip(random.beta(6, 4, most), 0.05, 0.95)
        second = random.random(most) < 0.5
        effect = _logits(points)
        truth = expit(logit(chances) + off + np.where(second, effect / 2, -effect / 2))
        right = random.random(most) < truth
        found = followed(map(TrialAnswer, second.tolist(), chances.tolist(), right.tolist()))
        ends.append((found.verdict, found.answers))
    return _counted(ends)


def _logits(points: float) -> float:
    """The effect in logits that is so many points at a chance of 0.6."""
    low, high = 0.0, 4.0
    while high - low > 1e-6:
        middle = (low + high) / 2
        made = expit(logit(0.6) + middle / 2) - expit(logit(0.6) - middle / 2)
        low, high = (middle, high) if made < points else (low, middle)
    return low


def _counted(ends: Sequence[tuple[Verdict, int]]) -> Simulated:
    def share(verdict: Verdict) -> float:
        return sum(found is verdict for found, _ in ends) / len(ends)

    counts = sorted(many if found is not Verdict.RUNNING else math.inf for found, many in ends)
    return Simulated(
        share(Verdict.FIRST),
        share(Verdict.SECOND),
        share(Verdict.EQUAL),
        share(Verdict.RUNNING) + share(Verdict.UNDECIDED),
        float(counts[len(counts) // 2]),
    )


def chance_before(curve: ResponseCurve, scale: LevelScale, reading: LevelReading) -> float:
    """The expected share of a question's points, 0 to 1, luck in it, of somebody with such a
    reading of its topic: over what was believed of their ability then, taken as normal."""
    thetas = scale.ability(reading.level) + reading.sd * ABILITY_NODES
    return float(np.dot(ABILITY_WEIGHTS, curve.share(thetas)[0]))
