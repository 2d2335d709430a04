"""Simulated people: what they know, how they answer, learn and forget, like the model or not."""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from ..measure.grid import Array
from ..measure.kernels import ChangeSettings
from ..measure.posterior import Prior
from ..measure.response import ResponseCurve
from ..scoring.outcomes import LUCK

PACE_SD = 0.3
BURST_DAYS = 7
GIVES_UP_AFTER, GIVES_UP = 2, 0.5
# Shares of the usual time, as medians and sds of logarithms (judgements; no published source).
TAKES, BLIND_TAKES = (1.0, 0.4), (0.2, 0.5)


class Crowd(StrEnum):
    """Who learns. like: as the model thinks most do, at a pace of their own near the usual. never:
    nothing. fast, slow: at three times and at half the usual pace. forget_02, forget_05: lose 0.02
    and 0.05 logits a day in every topic. bursty: a week at twice the pace, a week at none, by
    turns. guess: right one time in four on what is not known, typed or not. misjudged: find
    questions harder or easier than judged, by sd 0.5. give_up: after two misses answer blindly
    for the rest of the day, one time in two. mixed: two of three like the model, the others by
    turns of five kinds."""

    LIKE = "like"
    NEVER = "never"
    FAST = "fast"
    SLOW = "slow"
    FORGET_02 = "forget_02"
    FORGET_05 = "forget_05"
    BURSTY = "bursty"
    MISJUDGED = "misjudged"
    GUESS = "guess"
    GIVE_UP = "give_up"
    MIXED = "mixed"


@dataclass(frozen=True, slots=True)
class Traits:
    """How people of a crowd differ from the model. forgets: logits a day. guesses: chance of being
    right on what is not known. misjudged: sd, logits."""

    pace: float = 1.0
    forgets: float = 0.0
    guesses: float = 0.0
    misjudged: float = 0.0
    bursts: bool = False
    gives_up: bool = False


TRAITS = {
    Crowd.LIKE: Traits(),
    Crowd.NEVER: Traits(pace=0.0),
    Crowd.FAST: Traits(pace=3.0),
    Crowd.SLOW: Traits(pace=0.5),
    Crowd.FORGET_02: Traits(forgets=0.02),
    Crowd.FORGET_05: Traits(forgets=0.05),
    Crowd.BURSTY: Traits(bursts=True),
    Crowd.MISJUDGED: Traits(misjudged=0.5),
    Crowd.GUESS: Traits(guesses=0.25),
    Crowd.GIVE_UP: Traits(gives_up=True),
}
UNLIKE = (Crowd.NEVER, Crowd.FORGET_02, Crowd.GUESS, Crowd.MISJUDGED, Crowd.SLOW)


def crowd_of(crowd: Crowd, number: int) -> Crowd:
    """The crowd of one learner: of a mixed one, what their number makes them."""
    if crowd is not Crowd.MIXED:
        return crowd
    return UNLIKE[number // 3 % len(UNLIKE)] if number % 3 == 2 else Crowd.LIKE


@dataclass(frozen=True, slots=True)
class Answered:
    """Category of an answer, and the share of the usual time that it took."""

    outcome: int
    share: float


@dataclass(slots=True)
class Pupil:
    """One person. truth (K,): abilities, logits. pace: of learning, 1 is usual. off: how much
    harder each family is for them than judged, logits. misses: running. blind: has given up for
    today. days: that went by."""

    crowd: Crowd
    truth: Array
    pace: float
    rng: random.Random
    off: dict[str, float] = field(default_factory=dict)
    misses: int = 0
    blind: bool = False
    days: float = 0.0

    @classmethod
    def drawn(cls, prior: Prior, root: Array, seed: int, crowd: Crowd, number: int) -> Pupil:
        """The person of a number, always the same for a seed. root: of the prior's covariance."""
        normal = np.random.default_rng([seed, 3, number]).normal(size=prior.size)
        rng = random.Random(f"{seed}:pupil:{number}")
        own = crowd_of(crowd, number)
        pace = TRAITS[own].pace * float(np.exp(rng.gauss(0, PACE_SD)))
        return cls(own, prior.mean + root @ normal, pace, rng)

    @property
    def traits(self) -> Traits:
        """How they differ from the model."""
        return TRAITS[self.crowd]

    def curve(self, key: str, curve: ResponseCurve) -> ResponseCurve:
        """A family's curve as it is for them: what is typed is not guessed, but by who guesses."""
        c = 0.0 if curve.c <= LUCK else curve.c
        by = 0.0
        if self.traits.misjudged:
            by = self.off.setdefault(key, self.rng.gauss(0, self.traits.misjudged))
        return ResponseCurve(curve.a, curve.b + by, c, tuple(step + by for step in curve.steps))

    def answer(self, key: str, curve: ResponseCurve, topic: int) -> Answered:
        """What they answer to a question."""
        own, rng = self.curve(key, curve), self.rng
        top = own.categories - 1
        blind = self.blind
        theta = -20.0 if blind else float(self.truth[topic])
        chances = own.probabilities(np.array([theta]))[:, 0]
        luck, outcome = rng.random(), 0
        while outcome < top and luck >= chances[: outcome + 1].sum():
            outcome += 1
        if outcome < top and not own.c and not blind:
            outcome += rng.random() < self.traits.guesses
        median, sd = BLIND_TAKES if blind else TAKES
        self.misses = 0 if outcome == top else self.misses + 1
        if self.traits.gives_up and self.misses >= GIVES_UP_AFTER and not blind:
            self.blind = rng.random() < GIVES_UP
        return Answered(int(outcome), median * float(np.exp(rng.gauss(0, sd))))

    def learn(self, topic: int, change: ChangeSettings) -> None:
        """What an answer with feedback does to them."""
        if self.blind or not self.traits.pace:
            return
        self.truth[topic] += self.rng.gauss(0, change.drift_sd)
        pace = self.pace
        if self.traits.bursts:
            pace *= 2 * (self.days // BURST_DAYS % 2 == 0)
        if self.rng.random() < pace * change.jump_chance:
            self.truth[topic] += self.rng.gauss(change.jump_mean, change.jump_sd)

    def sleep(self, days: float, change: ChangeSettings) -> None:
        """What time does to them."""
        self.days += days
        self.misses, self.blind = 0, False
        sd = (change.variance_per_day * days) ** 0.5
        for topic in range(len(self.truth)):
            self.truth[topic] += self.rng.gauss(-self.traits.forgets * days, sd)
