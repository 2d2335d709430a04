"""How fast a learner learns and forgets: what their own answers say about it.

Each topic is followed by one forward filter (of a hidden Markov model; Rabiner 1989) for every pair
of paces, of learning and of forgetting, on a coarser grid. How well each pair foretold the answers
of all topics together is its evidence, because a pace is the person's and not a topic's. The
probabilities give the learner their own kernels in `measure/change.py`: one posterior, which every
level, chance, call and forecast reads.

A filter knows nothing of other topics. Time is applied to it only once its topic is answered in
again, so that a day costs nothing.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .grid import HALF_WIDTH, THETA, Array
from .kernels import ChangeSettings, gaussian_weights, kernel_of, lapse_kernel, learning_kernels

Masses = NDArray[np.float32]

# Every second node of the grid: 18 topics of 24 filters are 98 kB then, and the evidence is off by
# less than 0.004 over a dozen answers (test).
EVERY = 2
COARSE: Array = THETA[::EVERY]
COARSE_NODES = len(COARSE)
COARSE_STEP = EVERY * 2 * HALF_WIDTH / (len(THETA) - 1)
TINY = 1e-30


@dataclass(frozen=True, slots=True)
class Paces:
    """Pairs of paces with their probabilities (R, F): learning[r], forgetting[f], logits a day."""

    learning: Array
    forgetting: Array
    chances: Array

    @property
    def learns(self) -> Array:
        """Chance of each pace of learning. Shape (R,)."""
        return np.asarray(self.chances.sum(axis=1))

    @property
    def forgets(self) -> Array:
        """Chance of each pace of forgetting. Shape (F,)."""
        return np.asarray(self.chances.sum(axis=0))

    @property
    def learning_mean(self) -> float:
        """Expected pace of learning: 1 is what the model takes for usual."""
        return float(self.learns @ self.learning)

    @property
    def forgetting_mean(self) -> float:
        """Expected pace of forgetting, logits a day."""
        return float(self.forgets @ self.forgetting)


@lru_cache(maxsize=16)
def prior_paces(settings: ChangeSettings) -> tuple[Array, Array]:
    """Paces of learning (R,) and of forgetting (F,)."""
    learning, forgetting = (
        np.array([pace for pace, _ in pairs]) for pairs in (settings.learning, settings.forgetting)
    )
    return learning, forgetting


@lru_cache(maxsize=16)
def _prior_logs(settings: ChangeSettings) -> Array:
    chances = [np.array([c for _, c in p]) for p in (settings.learning, settings.forgetting)]
    found = np.log(chances[0] / chances[0].sum())[:, None]
    return np.asarray(found + np.log(chances[1] / chances[1].sum()))


@lru_cache(maxsize=16)
def _steps(settings: ChangeSettings) -> tuple[Masses, Masses]:
    drift, jump = learning_kernels(settings, COARSE_NODES, COARSE_STEP)
    return drift.T.astype(np.float32), jump.T.astype(np.float32)


@lru_cache(maxsize=16)
def _lapse(settings: ChangeSettings) -> Masses:
    return lapse_kernel(settings, COARSE_NODES, COARSE_STEP).T.astype(np.float32)


@lru_cache(maxsize=128)
def _away_kernels(days: float, settings: ChangeSettings) -> Masses:
    """Kernels of days without an answer, turned, at each pace of forgetting. (F, nodes, nodes)."""
    days = min(days, settings.forgotten_for)
    variance = settings.variance_per_day * days
    return np.stack(
        [
            kernel_of(gaussian_weights(-pace * days, variance, COARSE_NODES, COARSE_STEP)).T
            for pace, _ in settings.forgetting
        ]
    ).astype(np.float32)


@lru_cache(maxsize=256)
def _begins(mean: float, variance: float) -> Masses:
    weights = np.exp(-0.5 * (COARSE - mean) ** 2 / variance)
    return np.asarray((weights / weights.sum()).astype(np.float32))


@dataclass(frozen=True, slots=True)
class OneFollowed:
    """The filters of one learner: as `Followed`, without the first dimension."""

    masses: Masses
    logs: Array
    away: Array
    faded: Array


@dataclass(slots=True)
class Followed:
    """Filters of learners side by side, B of K topics, R paces of learning and F of forgetting.

    masses (B, K, R, F, COARSE_NODES): zeros for a topic without an answer. logs (B, R, F): prior
    and evidence. away (B, K): days since the last answer in a topic, or since the first in any.
    faded (B, K, 2): what the posterior takes to be forgotten in them, logits, and the variance of
    that. Changed in place.
    """

    masses: Masses
    logs: Array
    away: Array
    faded: Array
    settings: ChangeSettings

    @classmethod
    def beside(
        cls, learners: Sequence[OneFollowed | None], topics: int, settings: ChangeSettings
    ) -> Followed:
        """Learners side by side; None stands for one who has not answered anything."""
        learning, forgetting = prior_paces(settings)
        count = len(learners)
        shape = (count, topics, len(learning), len(forgetting), COARSE_NODES)
        logs = np.tile(_prior_logs(settings), (count, 1, 1))
        all_ = cls(
            np.zeros(shape, np.float32),
            logs,
            np.zeros((count, topics)),
            np.zeros((count, topics, 2)),
            settings,
        )
        for place, one in enumerate(learners):
            if one is not None:
                all_.masses[place], all_.logs[place] = one.masses, one.logs
                all_.away[place], all_.faded[place] = one.away, one.faded
        return all_

    def one(self, place: int) -> OneFollowed:
        """The filters of one learner."""
        arrays = (self.masses, self.logs, self.away, self.faded)
        return OneFollowed(*(array[place].copy() for array in arrays))

    def chances(self, who: NDArray[np.intp]) -> Array:
        """Probabilities of the pairs of paces, of some learners. Shape (n, R, F)."""
        logs = self.logs[who]
        found = np.exp(logs - logs.max(axis=(1, 2), keepdims=True))
        return np.asarray(found / found.sum(axis=(1, 2), keepdims=True))

    def _pass(self, place: int, topic: int) -> None:
        """Apply the days since a topic's last answer."""
        days, masses = float(self.away[place, topic]), self.masses[place, topic]
        if days > 0:
            away = masses.transpose(1, 0, 2) @ _away_kernels(days, self.settings)
            masses[...] = away.transpose(1, 0, 2)
            self.away[place, topic] = 0.0
            self.faded[place, topic] = 0.0

    def lapse(self, place: int, topic: int, chance: float) -> None:
        """Take in a chance that some of a topic was lost."""
        self._pass(place, topic)
        masses = self.masses[place, topic]
        lost = masses @ _lapse(self.settings)
        masses += np.float32(chance) * (lost - masses)

    def fade(self, place: int, days: float) -> tuple[Array, Array]:
        """Let days (0 or more) pass for a learner. Returns by how much each topic is taken to be
        forgotten beyond what was thought before, logits, and the variance of that, each (K,).

        All the time since a topic's last answer is judged by what is believed of the pace now.
        """
        away = self.away[place]
        away += days
        _, paces = prior_paces(self.settings)
        chances = self.chances(np.array([place]))[0].sum(axis=0)
        mean = float(chances @ paces)
        long = np.minimum(away, self.settings.forgotten_for)
        now = np.stack([mean * long, float(chances @ (paces - mean) ** 2) * long**2], axis=1)
        more = now - self.faded[place]
        more[:, 1] = np.maximum(more[:, 1], 0.0)
        self.faded[place] += more
        return more[:, 0], more[:, 1]

    def take(
        self,
        place: int,
        topic: int,
        begins: tuple[float, float],
        likelihood: Array,
        *,
        teaches: bool,
    ) -> None:
        """Take one learner's answer into a topic's filters and the evidence for each pair.

        begins: mean and variance of the topic before any answer. likelihood (NODES,): of the answer
        at each ability, to the power of its weight. teaches: whether it was an opportunity to
        learn.
        """
        settings, masses = self.settings, self.masses[place, topic]
        if not masses.any():
            masses[...] = _begins(*begins)
        self._pass(place, topic)
        masses *= likelihood[::EVERY].astype(np.float32)
        heights = np.maximum(masses.sum(axis=-1), TINY)
        masses /= heights[..., None]
        self.logs[place] += np.log(heights)
        if teaches:
            drift, jump = _steps(settings)
            chance = np.float32(settings.jump_chance) * prior_paces(settings)[0].astype(np.float32)
            moved = masses @ drift
            moved += chance[:, None, None] * (masses @ jump - moved)
            masses[...] = moved


def paces_of(one: OneFollowed | None, settings: ChangeSettings) -> Paces:
    """Return what is believed about a learner's paces."""
    learning, forgetting = prior_paces(settings)
    logs = _prior_logs(settings) if one is None else one.logs
    chances = np.exp(logs - logs.max())
    return Paces(learning, forgetting, np.asarray(chances / chances.sum()))
