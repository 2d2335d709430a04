"""Which question tells most: expected fall of weighted variance, one step ahead."""

from __future__ import annotations

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


@dataclass(frozen=True, slots=True)
class FamilyTable:
    """The families of a course in tables over the grid, sorted by topic.

    keys: N family keys. topics: (N,) topic numbers, rising. starts: (K + 1,) slice bounds.
    chances: (N, C - 1, NODES) chance of each outcome but the lowest, 0 beyond a family's own.
    points: (N, NODES) expected share of the points, 0 to 1, guessing included.
    """

    keys: tuple[str, ...]
    topics: NDArray[np.int64]
    starts: tuple[int, ...]
    chances: Array
    points: Array
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
        return cls(keys, numbers, starts, chances, points, {key: i for i, key in enumerate(keys)})

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


def _fresh_rows(table: FamilyTable, topic: int, seen: Collection[str]) -> list[int]:
    """Rows of a topic not asked yet in this run, or all when it has no other."""
    rows = list(table.of_topic(topic))
    return [row for row in rows if table.keys[row] not in seen] or rows


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
    allowed = [t for t in open_topics if t != tired] or list(open_topics)
    rows = [
        row
        for topic in allowed
        for row in _fresh_rows(table, topic, seen)
        if table.keys[row] not in exclude
    ]
    if not rows:
        raise NothingToAsk("no open topic has a question left")
    best = max(gain[row] for row in rows)
    near = [row for row in rows if gain[row] >= NEAR_BEST * best]
    row = near[rng.randrange(len(near))]
    topic = int(table.topics[row])
    others = [r for r in rows if table.topics[r] != topic and gain[r] >= SWAP_SHARE * gain[row]]
    swap = max(others, key=lambda r: gain[r], default=None)
    return Choice(
        table.keys[row],
        topic,
        float(gain[row]),
        float(best),
        None if swap is None else table.keys[swap],
    )


def success_chances(table: FamilyTable, posterior: Posterior, topic: int) -> dict[str, float]:
    """Expected share of the points, 0 to 1, for each family of a topic, guessing included."""
    rows = table.of_topic(topic)
    expected = table.points[rows.start : rows.stop] @ posterior.marginals[topic]
    return {table.keys[row]: float(value) for row, value in zip(rows, expected, strict=True)}
