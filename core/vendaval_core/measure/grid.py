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
    """Probability below each node: half of the node's own mass lies below it. Shape (NODES,)."""
    return np.asarray(np.cumsum(mass) - 0.5 * mass)


def quantile(mass: Array, p: float) -> float:
    """Ability (logits) below which probability `p` lies; 0 < p < 1, else OutOfRange."""
    if not 0.0 < p < 1.0:
        raise OutOfRange(f"a quantile needs a probability between 0 and 1, not {p}")
    return float(np.interp(p, _cumulative(mass), THETA))


def probability_above(mass: Array, theta: float) -> float:
    """Probability (0 to 1) that ability is at or above `theta` logits."""
    return float(1.0 - np.interp(theta, THETA, _cumulative(mass), left=0.0, right=1.0))
