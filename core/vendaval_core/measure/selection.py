"""Which question tells most: expected fall of weighted variance, one step ahead."""

from __future__ import annotations

import itertools
import random
from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import NothingToAsk
from .grid import NODES, THETA, Array
from .posterior import Posterior
from .response import ResponseCurve

NEAR_BEST = 0.9
SWAP_SHARE = 0.85
MOST_IN_A_ROW = 3
STOPPED_WEIGHT = 0.1
SAMPLE = 40


@dataclass(frozen=True, slots=True)
class FamilyTable:
    """The families of a course in tables over the grid, sorted by topic.

    keys: N family keys. topics: (N,) topic numbers, rising. starts: (K + 1,) slice bounds.
    chances: (N, C - 1, NODES) chance of each outcome but the lowest, 0 beyond a family's own.
    points: (N, NODES) expected share of the points, 0 to 1, guessing included. sample: (K, n,
    C - 1, NODES) chances of at most 40 families of each topic, spread over it, 0 beyond them.
    """

    keys: tuple[str, ...]
    topics: NDArray[np.int64]
    starts: tuple[int, ...]
    chances: Array
    points: Array
    sample: Array
    position: dict[str, int]

    @classmethod
    def of(cls, families: Sequence[tuple[str, int, ResponseCurve]], topics: int) -> FamilyTable:
        """Table of (key, topic number, curve) triples for a course of `topics` topics."""
        ordered = sorted(families, key=lambda family: family[1])
        most = max((curve.categories for _, _, curve in ordered), default=2)
        chances = np.zeros((len(ordered), most - 1, NODES))
        points = np.zeros((len(ordered), NODES))
        for row, (_, _, curve) in enumerate(ordered):
            probabilities = curve.probabilities(THETA)
            chances[row, : curve.categories - 1] = probabilities[1:]
            points[row] = np.arange(curve.categories) @ probabilities / (curve.categories - 1)
        numbers = np.asarray([topic for _, topic, _ in ordered], dtype=np.int64)
        starts = tuple(int(n) for n in np.searchsorted(numbers, np.arange(topics + 1)))
        keys = tuple(key for key, _, _ in ordered)
        picked = [
            np.unique(np.linspace(start, end - 1, min(SAMPLE, end - start)).astype(int))
            for start, end in itertools.pairwise(starts)
        ]
        sample = np.zeros((topics, max(map(len, picked), default=0), most - 1, NODES))
        for topic, rows in enumerate(picked):
            sample[topic, : len(rows)] = chances[rows]
        position = {key: i for i, key in enumerate(keys)}
        return cls(keys, numbers, starts, chances, points, sample, position)

    def of_topic(self, topic: int) -> range:
        """Rows of one topic."""
        return range(self.starts[topic], self.starts[topic + 1])


def spread_of_means(table: FamilyTable, posterior: Posterior, topic: int) -> Array:
    """Var_y(E[θ | y]) in logits² for each family of a topic, over its outcomes y. Shape (n,)."""
    rows = slice(table.starts[topic], table.starts[topic + 1])
    mass = posterior.marginals[topic]
    mean = posterior.mean[topic]
    pair = np.stack([mass, mass * (THETA - mean)], axis=1)
    sums = table.chances[rows] @ pair
    chance, deviation = sums[..., 0], sums[..., 1]
    lowest_chance = 1.0 - chance.sum(axis=1)
    lowest_deviation = -deviation.sum(axis=1)
    with np.errstate(invalid="ignore", divide="ignore"):
        terms = np.where(chance > 1e-12, deviation**2 / chance, 0.0).sum(axis=1)
        lowest = np.where(lowest_chance > 1e-12, lowest_deviation**2 / lowest_chance, 0.0)
    return np.asarray(terms + lowest)


def gains(
    table: FamilyTable, posterior: Posterior, weights: Array, topics: Collection[int]
) -> Array:
    """Expected fall of Σ w_l Var(θ_l) for every family of `topics`, -1 elsewhere. Shape (N,)."""
    result = np.full(len(table.keys), -1.0)
    covariance = posterior.covariance
    for topic in topics:
        reach = float(weights @ covariance[:, topic] ** 2 / covariance[topic, topic] ** 2)
        rows = slice(table.starts[topic], table.starts[topic + 1])
        result[rows] = reach * spread_of_means(table, posterior, topic)
    return result


@dataclass(frozen=True, slots=True)
class Choice:
    """A family chosen, with the terms that won: gain (logits², weighted) and the best there was."""

    family: str
    topic: int
    gain: float
    best_gain: float
    swap: str | None = None


def _allowed(
    table: FamilyTable, topics: Collection[int], seen: Collection[str], exclude: Collection[str]
) -> NDArray[np.int64]:
    """Rows of some topics not asked yet in this run, or all of a topic that has no other."""
    asked = np.zeros(len(table.keys), dtype=bool)
    asked[[table.position[key] for key in seen if key in table.position]] = True
    allowed = np.zeros(len(table.keys), dtype=bool)
    for topic in topics:
        rows = slice(table.starts[topic], table.starts[topic + 1])
        fresh = ~asked[rows]
        allowed[rows] = fresh if fresh.any() else True
    allowed[[table.position[key] for key in exclude if key in table.position]] = False
    return np.flatnonzero(allowed)


def choose_diagnostic(
    table: FamilyTable,
    gain: Array,
    open_topics: Collection[int],
    seen: Sequence[str],
    rng: random.Random,
    *,
    exclude: Collection[str] = (),
) -> Choice:
    """Family to ask next in a diagnostic.

    gain: (N,) from `gains`. seen: families asked in this run, in order. Drawn among the families
    within 90 % of the best gain; no family twice until its topic has no other; at most three in
    a row from one topic while another is open. Raises NothingToAsk when no topic is open.
    """
    last = [int(table.topics[table.position[key]]) for key in seen[-MOST_IN_A_ROW:]]
    tired = last[0] if len(last) == MOST_IN_A_ROW and len(set(last)) == 1 else None
    topics = [t for t in open_topics if t != tired] or list(open_topics)
    rows = _allowed(table, topics, seen, exclude)
    if len(rows) == 0:
        raise NothingToAsk("no open topic has a question left")
    best = float(gain[rows].max())
    near = rows[gain[rows] >= NEAR_BEST * best]
    row = int(near[rng.randrange(len(near))])
    topic = int(table.topics[row])
    others = rows[(table.topics[rows] != topic) & (gain[rows] >= SWAP_SHARE * gain[row])]
    swap = table.keys[int(others[gain[others].argmax()])] if len(others) else None
    return Choice(table.keys[row], topic, float(gain[row]), best, swap)


def success_chances(table: FamilyTable, posterior: Posterior, topic: int) -> dict[str, float]:
    """Expected share of the points, 0 to 1, for each family of a topic, guessing included."""
    rows = table.of_topic(topic)
    expected = table.points[rows.start : rows.stop] @ posterior.marginals[topic]
    return {table.keys[row]: float(value) for row, value in zip(rows, expected, strict=True)}
