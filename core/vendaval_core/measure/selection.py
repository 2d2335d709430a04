"""Which question tells most: expected fall of weighted variance, one step ahead."""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from vendaval_core.language import gettext

from ..errors import NothingToAsk
from .grid import NODES, THETA, Array
from .posterior import Posterior
from .response import ResponseCurve

# Always the very best would give every learner of a level the same questions.
NEAR_BEST = 0.9
# A question that is swapped should cost the diagnostic little.
SWAP_SHARE = 0.85
# More of one topic in a row tires, and tells less.
MOST_IN_A_ROW = 3
# A third version of one idea tells little that the second did not, and tires.
MOST_OF_AN_IDEA = 2
# A topic that is settled still gains from questions elsewhere, and should not draw any.
STOPPED_WEIGHT = 0.1
SAMPLE = 40
TINY = 1e-12


@dataclass(frozen=True, slots=True)
class FamilyTable:
    """The families of a course in tables over the grid, sorted by topic.

    keys: N family keys. topics: (N,) topic numbers, rising. starts: (K + 1,) slice bounds.
    chances: (K, n, C - 1, NODES) chance of each outcome but the lowest, n the most families a
    topic has, 0 beyond a topic's and a family's own. there: (K, n) which places are families.
    points: (N, NODES) expected share of the points, 0 to 1, guessing included. sample: like
    chances, with at most 40 families of each topic, spread over it.
    """

    keys: tuple[str, ...]
    topics: NDArray[np.int64]
    starts: tuple[int, ...]
    chances: Array
    there: NDArray[np.bool_]
    points: Array
    sample: Array
    position: dict[str, int]

    @classmethod
    def of(cls, families: Sequence[tuple[str, int, ResponseCurve]], topics: int) -> FamilyTable:
        """Table of (key, topic number, curve) triples for a course of `topics` topics."""
        ordered = sorted(families, key=lambda family: family[1])
        numbers = np.asarray([topic for _, topic, _ in ordered], dtype=np.int64)
        starts = tuple(int(n) for n in np.searchsorted(numbers, np.arange(topics + 1)))
        sizes = np.diff(starts)
        widest = int(sizes.max(initial=0))
        most = max((curve.categories for _, _, curve in ordered), default=2)
        chances = np.zeros((topics, widest, most - 1, NODES))
        points = np.zeros((len(ordered), NODES))
        for row, (_, topic, curve) in enumerate(ordered):
            probabilities = curve.probabilities(THETA)
            chances[topic, row - starts[topic], : curve.categories - 1] = probabilities[1:]
            points[row] = np.arange(curve.categories) @ probabilities / (curve.categories - 1)
        there = np.arange(widest)[None, :] < sizes[:, None]
        sample = np.zeros((topics, min(widest, SAMPLE), most - 1, NODES))
        for topic, size in enumerate(sizes.tolist()):
            picked = np.unique(np.linspace(0, size - 1, min(SAMPLE, size)).astype(int))
            sample[topic, : len(picked)] = chances[topic, picked]
        keys = tuple(key for key, _, _ in ordered)
        position = {key: i for i, key in enumerate(keys)}
        return cls(keys, numbers, starts, chances, there, points, sample, position)

    def of_topic(self, topic: int) -> range:
        """Rows of one topic."""
        return range(self.starts[topic], self.starts[topic + 1])


def spreads_of_means(table: FamilyTable, posterior: Posterior) -> Array:
    """Return Var_y(E[θ | y]), logits², over the outcomes y of each family of each topic. Shape (K,
    n)."""
    topics, widest, outcomes, nodes = table.chances.shape
    mass = posterior.marginals
    pair = np.empty((topics, nodes, 2))
    pair[..., 0] = mass
    np.multiply(mass, THETA - posterior.mean[:, None], out=pair[..., 1])
    sums = table.chances.reshape(topics, widest * outcomes, nodes) @ pair
    chance, moved = sums[..., 0], sums[..., 1]
    if outcomes == 1:
        return np.asarray(moved**2 / np.maximum(chance * (1.0 - chance), TINY))
    chance = chance.reshape(topics, widest, outcomes)
    moved = moved.reshape(topics, widest, outcomes)
    terms = (moved**2 / np.maximum(chance, TINY)).sum(axis=-1)
    lowest = np.maximum(1.0 - chance.sum(axis=-1), TINY)
    return np.asarray(terms + moved.sum(axis=-1) ** 2 / lowest)


def gains(
    table: FamilyTable, posterior: Posterior, weights: Array, topics: Collection[int]
) -> Array:
    """Return the expected fall of Σ w_l Var(θ_l) for every family of `topics`, and -1 for all
    others. weights (K,); returns (N,)."""
    covariance = posterior.covariance
    reach = weights @ covariance**2 / np.diagonal(covariance) ** 2
    found = reach[:, None] * spreads_of_means(table, posterior)
    if len(topics) < len(found):
        left_out = np.ones(len(found), dtype=bool)
        left_out[list(topics)] = False
        found[left_out] = -1.0
    return np.asarray(found[table.there])


@dataclass(frozen=True, slots=True)
class Choice:
    """A family chosen, with the terms that won: gain (logits², weighted), the best there was, and
    how many were near enough to it to be drawn."""

    family: str
    topic: int
    gain: float
    best_gain: float
    near: int
    swap: str | None = None


def used_up(table: FamilyTable, seen: Sequence[str]) -> NDArray[np.int64]:
    """Return the rows of the families that were asked as often as they may be in one run."""
    counts = Counter(seen)
    rows = [table.position[k] for k, n in counts.items() if n >= MOST_OF_AN_IDEA]
    return np.asarray(rows, dtype=np.int64)


def _allowed(
    table: FamilyTable, topics: Collection[int], seen: Sequence[str], left_out: Collection[str]
) -> NDArray[np.int64]:
    """Rows of some topics not asked yet in this run, or those asked once of a topic that has no
    other. What is left out is never among them."""
    free = np.ones(len(table.keys), dtype=bool)
    free[used_up(table, seen)] = False
    free[[table.position[key] for key in left_out]] = False
    fresh = free.copy()
    fresh[[table.position[key] for key in seen]] = False
    size = len(table.starts) - 1
    inside = np.zeros(size, dtype=bool)
    inside[list(topics)] = True
    all_seen = np.bincount(table.topics[fresh], minlength=size) == 0
    allowed = inside[table.topics] & free & (fresh | all_seen[table.topics])
    return np.flatnonzero(allowed)


def choose_diagnostic(
    table: FamilyTable,
    gain: Array,
    open_topics: Collection[int],
    seen: Sequence[str],
    rng: random.Random,
    left_out: Collection[str] = (),
) -> Choice:
    """Choose the family to ask next in a diagnostic.

    gain (N,): from `gains`. seen: families asked in this run, in order; those no longer in the bank
    are ignored. left_out: families that may not be asked now. The choice is random among the
    families within 90% of the best gain. No family comes twice until its topic has no other, none
    comes three times, and at most three in a row come from one topic while another is open. Raises
    NothingToAsk if no topic is open or everything in the open ones is left out.
    """
    seen = [key for key in seen if key in table.position]
    last = [int(table.topics[table.position[key]]) for key in seen[-MOST_IN_A_ROW:]]
    tired = last[0] if len(last) == MOST_IN_A_ROW and len(set(last)) == 1 else None
    topics = [t for t in open_topics if t != tired] or list(open_topics)
    rows = _allowed(table, topics, seen, left_out)
    if len(rows) == 0:
        rows = _allowed(table, open_topics, seen, left_out)
    if len(rows) == 0:
        raise NothingToAsk(gettext("no open topic has a question left"))
    best = float(gain[rows].max())
    near = rows[gain[rows] >= NEAR_BEST * best]
    row = int(near[rng.randrange(len(near))])
    topic = int(table.topics[row])
    others = rows[gain[rows] >= SWAP_SHARE * gain[row]]
    others = others[table.topics[others] != topic]
    swap = table.keys[int(others[gain[others].argmax()])] if len(others) else None
    return Choice(table.keys[row], topic, float(gain[row]), best, len(near), swap)


def success_chances(table: FamilyTable, posterior: Posterior, topic: int) -> dict[str, float]:
    """Return the expected share of the points, 0 to 1, for each family of a topic, guessing
    included."""
    rows = table.of_topic(topic)
    expected = table.points[rows.start : rows.stop] @ posterior.marginals[topic]
    return {table.keys[row]: float(value) for row, value in zip(rows, expected, strict=True)}
