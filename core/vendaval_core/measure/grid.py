"""The fixed ability grid and densities on it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from vendaval_core.language import gettext

from ..errors import OutOfRange

Array = NDArray[np.float64]

# Beyond ±7 logits every question is right, or wrong, for certain; 113 nodes make steps of an
# eighth, fine enough for the bars in docs/measurement.md.
HALF_WIDTH = 7.0
NODES = 113
STEP = 2 * HALF_WIDTH / (NODES - 1)
THETA: Array = np.linspace(-HALF_WIDTH, HALF_WIDTH, NODES)
THETA.setflags(write=False)
NEWTON_STEPS = 7
TINY = 1e-300


def normalised(log_density: Array) -> Array:
    """Return probability masses that sum to 1 over the last axis, from unnormalised log densities
    (…, NODES)."""
    mass = np.exp(log_density - log_density.max(axis=-1, keepdims=True))
    return np.asarray(mass / mass.sum(axis=-1, keepdims=True))


def moments(mass: Array) -> tuple[Array, Array]:
    """Return mean (logits) and variance (logits²) of masses (…, NODES) over the last axis."""
    mean = mass @ THETA
    variance = mass @ (THETA * THETA) - mean * mean
    return np.asarray(mean), np.asarray(np.maximum(variance, 1e-12))


def _cumulative(mass: Array) -> Array:
    """Probability below each node, over the last axis.

    Trapezium rule with the first Euler-Maclaurin correction, so that the error is of the fourth
    order in the step.
    """
    below = np.cumsum(mass, axis=-1) - 0.5 * mass - np.gradient(mass, axis=-1) / 12
    return np.asarray(np.maximum.accumulate(np.clip(below, 0.0, 1.0), axis=-1))


@dataclass(frozen=True, slots=True)
class _Cubic:
    """Probability within cells of the grid, by a cubic through both nodes: offset from the left
    node (0 to 1) to probability, for any shape of cells."""

    low: Array
    left: Array
    a: Array
    b: Array

    @classmethod
    def of(cls, below: Array, mass: Array, cell: NDArray[np.int64]) -> _Cubic:
        """Cubics of `cell` (K, M), from (K, NODES) masses and their probabilities below."""
        low, high, left, right = (
            np.take_along_axis(values, cell + step, axis=-1)
            for values, step in ((below, 0), (below, 1), (mass, 0), (mass, 1))
        )
        rise = high - low
        return cls(low, left, left + right - 2 * rise, 3 * rise - 2 * left - right)

    def at(self, s: Array) -> Array:
        """Probability below the offsets."""
        return self.low + s * (self.left + s * (self.b + s * self.a))

    def offsets(self, wanted: Array) -> Array:
        """Offsets below which the probabilities lie: Newton's steps, kept between two bounds that
        close in, so that a cell with next to no mass is halved instead."""
        low, high = np.zeros(self.low.shape), np.ones(self.low.shape)
        s = np.full(self.low.shape, 0.5)
        for _ in range(NEWTON_STEPS):
            away = self.at(s) - wanted
            low, high = np.where(away < 0, s, low), np.where(away < 0, high, s)
            slope = self.left + s * (2 * self.b + 3 * s * self.a)
            s = s - away / np.where(slope > TINY, slope, TINY)
            outside = (s <= low) | (s >= high)
            if outside.any():
                s = np.where(outside, 0.5 * (low + high), s)
        return np.asarray(s)


def quantiles(mass: Array, probabilities: Sequence[float]) -> Array:
    """Return the abilities (logits) below which each probability lies. mass (K, NODES),
    probabilities (M,); returns (K, M).

    Raises OutOfRange for a probability that is not between 0 and 1.
    """
    wanted = np.asarray(probabilities, dtype=float)
    if wanted.min() <= 0.0 or wanted.max() >= 1.0:
        raise OutOfRange(
            gettext("a quantile needs probabilities between 0 and 1, not {probabilities}").format(
                probabilities=probabilities
            )
        )
    below = _cumulative(mass)
    cell = (below[:, None, :] < wanted[None, :, None]).sum(axis=-1) - 1
    cell = np.clip(cell, 0, NODES - 2)
    cubic = _Cubic.of(below, mass, cell)
    return np.asarray(THETA[cell] + STEP * cubic.offsets(wanted))


def probabilities_above(mass: Array, theta: Array) -> Array:
    """Return the probability (0 to 1) that each ability is at or above `theta` (K,), logits. mass
    (K, NODES); returns (K,)."""
    place = (theta + HALF_WIDTH) / STEP
    cell = np.clip(place.astype(np.int64), 0, NODES - 2)[:, None]
    inside = _Cubic.of(_cumulative(mass), mass, cell).at(np.clip(place[:, None] - cell, 0.0, 1.0))
    above = np.clip(1.0 - inside[:, 0], 0.0, 1.0)
    return np.asarray(np.where(place <= 0, 1.0, np.where(place >= NODES - 1, 0.0, above)))


def quantile(mass: Array, p: float) -> float:
    """Return the ability (logits) below which probability `p` lies. mass (NODES,). Raises
    OutOfRange unless 0 < p < 1."""
    return float(quantiles(mass[None], [p])[0, 0])


def probability_above(mass: Array, theta: float) -> float:
    """Return the probability (0 to 1) that the ability is at or above `theta` logits. mass
    (NODES,)."""
    return float(probabilities_above(mass[None], np.array([theta]))[0])
