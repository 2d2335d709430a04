"""How many questions a diagnostic still needs: the run played ahead on paper.

For each open topic eight abilities, spread over what is believed, answer the most informative
questions until the topic's stopping rule holds. What answers in other topics will tell is put in
beforehand (a judgement); `simulate --until-stopped` compares with what is used.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from .grid import THETA, Array
from .level import INTERVAL, LevelScale
from .selection import MOST_OF_AN_IDEA, FamilyTable
from .stopping import (
    CLEAR_CHANCE,
    CLEAR_SD,
    CLEAR_WIDTH,
    CLOSE_ANSWERS,
    CLOSE_CHANCE,
    CLOSE_WITHIN,
    KNOWN_SD,
    LEAST_ANSWERS,
    LEAST_GAIN,
)

PARTICLES = 8
MOST_QUESTIONS = 16
LENT = 0.1
_LUCK: Array = np.random.default_rng(20).random((MOST_QUESTIONS, PARTICLES))
_MOMENTS: Array = np.stack([np.ones_like(THETA), THETA, THETA * THETA], axis=1)


class _Ahead:
    """T topics times R particles: masses (T, R, NODES), and the families that each has left."""

    def __init__(
        self,
        sample: Array,
        marginals: Array,
        levels: Array,
        targets: Array,
        borrowed: Array,
    ) -> None:
        topics = len(sample)
        self.sample, self.levels, self.targets = sample, levels, targets
        self.target_nodes = (
            np.array([np.searchsorted(own, aim) for own, aim in zip(levels, targets, strict=True)])
            - 1
        )
        self.mass = np.repeat(marginals[:, None, :], PARTICLES, axis=1)
        cumulative = np.cumsum(marginals, axis=1)
        places = (np.arange(PARTICLES) + 0.5) / PARTICLES
        self.truth = (cumulative[:, None, :] < places[None, :, None]).sum(axis=-1)
        away = THETA - THETA[np.minimum(self.truth, len(THETA) - 1)][..., None]
        self.mass *= np.exp(-0.5 * borrowed[:, None, None] * away**2)
        self.mass /= self.mass.sum(axis=-1, keepdims=True)
        there: NDArray[np.bool_] = np.any(sample, axis=(2, 3))
        self.there = there
        self.left = np.repeat(there[:, None, :], PARTICLES, axis=1)
        self.rounds = np.ones((topics, PARTICLES), dtype=int)
        self.index = np.ix_(np.arange(topics), np.arange(PARTICLES))

    def moments(self) -> tuple[Array, Array]:
        """Mean and variance, (T, R)."""
        sums = self.mass @ _MOMENTS
        return sums[..., 1], np.maximum(sums[..., 2] - sums[..., 1] ** 2, 1e-12)

    def falls(self, mean: Array) -> Array:
        """Expected fall of variance by each family, (T, R, n); -1 for those used up."""
        topics, families, outcomes, nodes = self.sample.shape
        flat = self.sample.reshape(topics, families * outcomes, nodes)
        deviation = self.mass * (THETA - mean[..., None])
        shape = (topics, PARTICLES, families, outcomes)
        chance = (self.mass @ np.swapaxes(flat, 1, 2)).reshape(shape)
        moved = (deviation @ np.swapaxes(flat, 1, 2)).reshape(shape)
        lowest, back = 1.0 - chance.sum(axis=-1), moved.sum(axis=-1)
        terms = (moved**2 / np.maximum(chance, 1e-12)).sum(axis=-1)
        return np.where(self.left, terms + back**2 / np.maximum(lowest, 1e-12), -1.0)

    def stopped(self, variance: Array, fall: Array, answers: Array) -> NDArray[np.bool_]:
        """Whether the stopping rule holds, (T, R)."""
        sd = np.sqrt(variance)
        below = np.cumsum(self.mass, axis=-1)
        ends = [(below < p).sum(axis=-1).clip(0, len(THETA) - 1) for p in INTERVAL]
        low, high = (
            np.take_along_axis(self.levels, np.asarray(end, dtype=np.intp), axis=1) for end in ends
        )
        target = np.broadcast_to(self.target_nodes[:, None, None], (*sd.shape, 1)).astype(np.intp)
        under = np.take_along_axis(below, target, axis=-1)[..., 0]
        clear = np.abs(under - 0.5) >= CLEAR_CHANCE - 0.5
        narrow = (sd <= CLEAR_SD) | (high - low <= CLEAR_WIDTH)
        aim = self.targets[:, None]
        unclear = np.abs(under - 0.5) < CLOSE_CHANCE - 0.5
        near = np.maximum(aim - low, high - aim) <= CLOSE_WITHIN
        close = narrow & near & unclear & (answers >= CLOSE_ANSWERS)[:, None]
        told = (sd <= KNOWN_SD) | (narrow & clear) | close | (fall < LEAST_GAIN * variance)
        return np.asarray(told & (answers >= LEAST_ANSWERS)[:, None])

    def answer(self, turn: int, family: NDArray[np.intp]) -> None:
        """Every particle answers its family."""
        topic, particle = self.index
        chances = self.sample[topic, family]
        at = np.take_along_axis(chances, self.truth[..., None, None], axis=-1)[..., 0]
        above = np.cumsum(at[..., ::-1], axis=-1)
        outcome = (_LUCK[turn][None, :, None] < above).sum(axis=-1)
        lowest = 1.0 - chances.sum(axis=2, keepdims=True)
        every = np.concatenate([lowest, chances], axis=2)
        likelihood = every[topic, particle, outcome]
        self.mass *= likelihood
        self.mass /= self.mass.sum(axis=-1, keepdims=True)
        self.left[topic, particle, family] = False
        again = ~np.any(self.left, axis=-1) & (self.rounds < MOST_OF_AN_IDEA)
        self.left[again] = self.there[np.nonzero(again)[0]]
        self.rounds[again] += 1


def _borrowed(covariance: Array, topics: Sequence[int]) -> Array:
    """Precision (T,) that answers in the other open topics will lend to each.

    A tenth of what they could tell, were they known: close to what simulated runs used. With one
    open topic 0.
    """
    inside = covariance[np.ix_(topics, topics)]
    alone = 1.0 / np.diagonal(inside)
    return np.asarray(LENT * np.maximum(np.diagonal(np.linalg.inv(inside)) - alone, 0.0))


def questions_left(
    table: FamilyTable,
    marginals: Array,
    covariance: Array,
    scales: Sequence[LevelScale],
    targets: Sequence[float],
    answers: Sequence[int],
    topics: Sequence[int],
) -> tuple[Array, Array]:
    """Return the expected number of questions until each of `topics` stops, and its variance.
    Shapes (T,).

    marginals (K, NODES), covariance (K, K): of the posterior. scales, targets (per cent) and
    answers so far: by topic number.
    """
    if not topics:
        return np.zeros(0), np.zeros(0)
    chosen = list(topics)
    ahead = _Ahead(
        table.sample[chosen],
        marginals[chosen],
        np.stack([scales[t].levels for t in chosen]),
        np.array([targets[t] for t in chosen]),
        _borrowed(covariance, chosen),
    )
    given = np.array([answers[t] for t in chosen])
    going = np.ones((len(chosen), PARTICLES), dtype=bool)
    used = np.zeros((len(chosen), PARTICLES))
    for turn in range(MOST_QUESTIONS):
        mean, variance = ahead.moments()
        falls = ahead.falls(mean)
        going &= ~ahead.stopped(variance, falls.max(axis=-1), given + turn)
        if not going.any():
            break
        used += going
        ahead.answer(turn, falls.argmax(axis=-1))
    return used.mean(axis=1), used.var(axis=1)
