"""How ability changes between answers: learning in steps, and time without practice.

Both convolve a topic's marginal with a kernel and divide the cavity out again, so that the
change stays in the topic's own row. The constants are judgements, kept in `ChangeSettings`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from .grid import NODES, STEP, THETA, Array, moments
from .posterior import Prior
from .sweeps import tilted_weights

LEAST_DENSITY = 1e-290
LEAST_ADDED = 1e-9


@dataclass(frozen=True, slots=True)
class ChangeSettings:
    """Judgements about change. Means, sds and jumps in logits, variance in logits² per day."""

    drift_sd: float = 0.05
    jump_chance: float = 0.034
    jump_mean: float = 1.2
    jump_sd: float = 0.6
    variance_per_day: float = 0.01


def _gaussian_weights(mean: float, variance: float) -> Array:
    """Masses of N(mean, variance) over the offsets between nodes. Shape (2·NODES - 1,).

    A Gaussian narrower than the grid is replaced by three masses with the same variance.
    """
    offsets = STEP * np.arange(-(NODES - 1), NODES)
    if variance < 0.5 * STEP * STEP and mean == 0.0:
        weights = np.zeros(len(offsets))
        side = variance / (2 * STEP * STEP)
        weights[NODES - 2 : NODES + 1] = (side, 1 - 2 * side, side)
        return weights
    weights = np.exp(-0.5 * (offsets - mean) ** 2 / variance)
    return np.asarray(weights / weights.sum())


def _kernel(weights: Array) -> Array:
    """Chance of moving to node i from node j. Shape (NODES, NODES); columns sum to 1."""
    index = np.arange(NODES)
    kernel = weights[(index[:, None] - index[None, :]) + NODES - 1]
    return np.asarray(kernel / kernel.sum(axis=0, keepdims=True))


@lru_cache(maxsize=8)
def learning_kernel(settings: ChangeSettings) -> Array:
    """Kernel of one learning opportunity: a small drift and, rarely, a step up."""
    drift = _gaussian_weights(0.0, settings.drift_sd**2)
    jump = _gaussian_weights(settings.jump_mean, settings.jump_sd**2)
    kernel = _kernel((1 - settings.jump_chance) * drift + settings.jump_chance * jump)
    kernel.setflags(write=False)
    return kernel


def _moved_rows(kernel: Array, rows: Array, precision: Array, shift: Array) -> Array:
    """Rows after their marginals moved by a kernel, the cavity divided out again.

    rows (n, NODES); precision, shift (n,) of their cavities. Where a density is below 1e-290 of its
    greatest value it is taken as that, so that no logarithm is of 0.
    """
    moved = tilted_weights(rows, precision, shift) @ kernel.T
    outside = shift[:, None] * THETA - 0.5 * precision[:, None] * THETA**2
    found = np.log(np.maximum(moved, LEAST_DENSITY)) - outside
    return np.asarray(found - found.max(axis=1, keepdims=True))


def learned_rows(rows: Array, precision: Array, shift: Array, settings: ChangeSettings) -> Array:
    """Rows (n, NODES) after one learning opportunity; precision, shift (n,) of their cavities."""
    return _moved_rows(learning_kernel(settings), rows, precision, shift)


def aged_rows(
    prior: Prior,
    rows: Array,
    precision: Array,
    shift: Array,
    days: float,
    settings: ChangeSettings,
) -> Array:
    """A learner's rows (K, NODES) after `days` (not negative) without answers.

    Adds at most as much variance as keeps each marginal within the prior's; topics without a
    history stay without one.
    """
    weights = tilted_weights(rows, precision, shift)
    _, variance = moments(weights / weights.sum(axis=1, keepdims=True))
    room = np.diagonal(prior.covariance) - variance
    added = np.minimum(settings.variance_per_day * days, room)
    result = rows.copy()
    for variance in np.unique(added[rows.any(axis=1) & (added > LEAST_ADDED)]):
        topics = np.flatnonzero(rows.any(axis=1) & (added == variance))
        kernel = _kernel(_gaussian_weights(0.0, float(variance)))
        result[topics] = _moved_rows(kernel, rows[topics], precision[topics], shift[topics])
    return result


def after_learning(mass: Array, opportunities: int, settings: ChangeSettings) -> Array:
    """A marginal (NODES,) after a number of learning opportunities, evidence aside."""
    kernel = learning_kernel(settings)
    for _ in range(opportunities):
        mass = kernel @ mass
    return np.asarray(mass / mass.sum())
