"""The fixed ability grid and densities on it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..errors import OutOfRange

Array = NDArray[np.float64]

HALF_WIDTH = 7.0
NODES = 113
STEP = 2 * HALF_WIDTH / (NODES - 1)
THETA: Array = np.linspace(-HALF_WIDTH, HALF_WIDTH, NODES)
THETA.setflags(write=False)


def normalised(log_density: Array) -> Array:
    """Probability mass per node, summing to 1 over the last axis, from unnormalised logs."""
    mass = np.exp(log_density - log_density.max(axis=-1, keepdims=True))
    return np.asarray(mass / mass.sum(axis=-1, keepdims=True))


def moments(mass: Array) -> tuple[Array, Array]:
    """Mean (logits) and variance (logits²) over the last axis of masses on the grid."""
    mean = mass @ THETA
    variance = mass @ (THETA * THETA) - mean * mean
    return np.asarray(mean), np.asarray(np.maximum(variance, 1e-12))


def _cumulative(mass: Array) -> Array:
    """Probability below each node. Shape (NODES,).

    Trapezium rule with the first Euler-Maclaurin correction, so that the error is of the fourth
    order in the step.
    """
    below = np.cumsum(mass) - 0.5 * mass - np.gradient(mass) / 12
    return np.asarray(np.maximum.accumulate(np.clip(below, 0.0, 1.0)))


def _within(s: float, below: Array, mass: Array, cell: int) -> float:
    """Probability below the place `s` (0 to 1) of a cell: a cubic through both nodes."""
    low, high, left, right = below[cell], below[cell + 1], mass[cell], mass[cell + 1]
    rise = high - low
    a, b = left + right - 2 * rise, 3 * rise - 2 * left - right
    return float(low + s * (left + s * (b + s * a)))


def quantile(mass: Array, p: float) -> float:
    """Ability (logits) below which probability `p` lies; 0 < p < 1, else OutOfRange."""
    if not 0.0 < p < 1.0:
        raise OutOfRange(f"a quantile needs a probability between 0 and 1, not {p}")
    below = _cumulative(mass)
    cell = int(np.clip(np.searchsorted(below, p) - 1, 0, NODES - 2))
    low, high = 0.0, 1.0
    for _ in range(40):
        middle = 0.5 * (low + high)
        if _within(middle, below, mass, cell) < p:
            low = middle
        else:
            high = middle
    return float(THETA[cell] + STEP * 0.5 * (low + high))


def probability_above(mass: Array, theta: float) -> float:
    """Probability (0 to 1) that ability is at or above `theta` logits."""
    place = (theta + HALF_WIDTH) / STEP
    if place <= 0:
        return 1.0
    if place >= NODES - 1:
        return 0.0
    cell = int(place)
    below = _within(place - cell, _cumulative(mass), mass, cell)
    return float(np.clip(1.0 - below, 0.0, 1.0))
