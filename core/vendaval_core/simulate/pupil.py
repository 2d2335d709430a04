"""Simulated people: what they know, how they answer and learn, like the model or not."""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from ..measure.change import ChangeSettings
from ..measure.grid import Array
from ..measure.posterior import Prior
from ..measure.response import ResponseCurve

FORGOTTEN_PER_DAY = 0.02
GUESSED = 0.25
MISJUDGED_SD = 0.5
RATE_SD = 0.3


class Kind(StrEnum):
    """like: as the model thinks, with a learning rate of their own. never: does not learn.
    forget: loses 0.02 logits a day in every topic. guess: right one time in four on what is not
    known, typed or not. misjudged: finds questions harder or easier than judged, by sd 0.5."""

    LIKE = "like"
    NEVER = "never"
    FORGET = "forget"
    GUESS = "guess"
    MISJUDGED = "misjudged"


UNLIKE = (Kind.NEVER, Kind.FORGET, Kind.GUESS, Kind.MISJUDGED)


def kind_of(number: int) -> Kind:
    """Two of three are like the model; the others are of the other kinds by turns."""
    return UNLIKE[number // 3 % len(UNLIKE)] if number % 3 == 2 else Kind.LIKE


@dataclass(slots=True)
class Pupil:
    """One person. truth (K,): abilities, logits. rate: by which chances to learn are multiplied.
    off: how much harder each family is for them than judged, logits."""

    kind: Kind
    truth: Array
    rate: float
    rng: random.Random
    off: dict[str, float] = field(default_factory=dict)

    @classmethod
    def drawn(cls, prior: Prior, root: Array, seed: int, number: int) -> Pupil:
        """The person of a number, always the same for a seed. root: of the prior's covariance."""
        normal = np.random.default_rng([seed, 3, number]).normal(size=prior.size)
        rng = random.Random(f"{seed}:pupil:{number}")
        rate = float(np.exp(rng.gauss(0, RATE_SD)))
        return cls(kind_of(number), prior.mean + root @ normal, rate, rng)

    def curve(self, key: str, curve: ResponseCurve) -> ResponseCurve:
        """A family's curve as it is for them."""
        if self.kind is not Kind.MISJUDGED:
            return curve
        by = self.off.setdefault(key, self.rng.gauss(0, MISJUDGED_SD))
        steps = tuple(step + by for step in curve.steps)
        return ResponseCurve(curve.a, curve.b + by, curve.c, steps)

    def answer(self, key: str, curve: ResponseCurve, topic: int) -> int:
        """Category of their answer to a question."""
        own = self.curve(key, curve)
        chances = own.probabilities(self.truth[[topic]])[:, 0]
        luck, outcome = self.rng.random(), 0
        while outcome < own.categories - 1 and luck >= chances[: outcome + 1].sum():
            outcome += 1
        if self.kind is Kind.GUESS and outcome < own.categories - 1 and not own.c:
            outcome += self.rng.random() < GUESSED
        return int(outcome)

    def learn(self, topic: int, change: ChangeSettings) -> None:
        """What an answer with feedback does to them."""
        if self.kind is Kind.NEVER:
            return
        self.truth[topic] += self.rng.gauss(0, change.drift_sd)
        if self.rng.random() < self.rate * change.jump_chance:
            self.truth[topic] += self.rng.gauss(change.jump_mean, change.jump_sd)

    def sleep(self, days: float) -> None:
        """What time does to them."""
        if self.kind is Kind.FORGET:
            self.truth -= FORGOTTEN_PER_DAY * days
