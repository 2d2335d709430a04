"""Posterior moments by dense quadrature: the exact answer that the fast one is held to."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence

import numpy as np

from vendaval_core.measure.grid import Array
from vendaval_core.measure.journal import Entry
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.response import Outcome, ResponseCurve

Answer = tuple[int, ResponseCurve, Outcome]


def exact_moments(
    mean: Array, covariance: Array, answers: Sequence[Answer], nodes: int = 61, half: float = 6.5
) -> tuple[Array, Array]:
    """Mean and sd, each (K,), by a product grid of `nodes` per topic; K at most 3."""
    axis = np.linspace(-half, half, nodes)
    size = len(mean)
    logs = np.zeros((nodes,) * size)
    for topic, curve, outcome in answers:
        shape = [1] * size
        shape[topic] = nodes
        logs = logs + curve.log_likelihood(outcome, axis).reshape(shape)
    points = np.array(list(itertools.product(axis, repeat=size)))
    centred = points - mean
    prior = -0.5 * np.einsum("ij,jk,ik->i", centred, np.linalg.inv(covariance), centred)
    weights = np.exp(logs.ravel() + prior - (logs.ravel() + prior).max())
    weights /= weights.sum()
    first = weights @ points
    return first, np.sqrt(weights @ (points - first) ** 2)


class ExactPair:
    """Two topics on a dense plane: answers multiply it, learning and time convolve it.

    The same model as the measurement's, without any of its approximations. The plane reaches far
    beyond the measurement's grid, so that its ends do not matter.
    """

    STEP = 0.1

    def __init__(self, covariance: Array, settings: ChangeSettings) -> None:
        self.axis = np.arange(-8.0, 14.0, self.STEP)
        points = np.stack(np.meshgrid(self.axis, self.axis, indexing="ij"), axis=-1)
        away = np.einsum("...i,ij,...j->...", points, np.linalg.inv(covariance), points)
        self.mass = np.exp(-0.5 * away)
        self.mass /= self.mass.sum()
        self.learning = self._kernel(
            [
                (1 - settings.jump_chance, 0.0, settings.drift_sd**2),
                (settings.jump_chance, settings.jump_mean, settings.jump_sd**2),
            ]
        )

    def _kernel(self, parts: Sequence[tuple[float, float, float]]) -> Array:
        """Mixture of (share, mean, variance); one narrower than the plane's step as three masses."""
        size = len(self.axis)
        offsets = self.STEP * (np.arange(size)[:, None] - np.arange(size)[None, :])
        whole = np.zeros((size, size))
        for share, mean, variance in parts:
            if variance < self.STEP**2:
                side = variance / (2 * self.STEP**2)
                near = np.abs(np.abs(offsets) - self.STEP) < 1e-9
                kernel = side * near + (1 - 2 * side) * (np.abs(offsets) < 1e-9)
            else:
                kernel = np.exp(-0.5 * (offsets - mean) ** 2 / variance)
            whole += share * kernel / np.maximum(kernel.sum(axis=0), 1e-300)
        return whole

    def take(self, entry: Entry) -> None:
        """One answer: evidence, then learning."""
        if entry.weight > 0:
            logs = entry.weight * entry.curve.log_likelihood(entry.outcome, self.axis)
            self._along(entry.topic, lambda mass: mass * np.exp(logs)[:, None])
        if entry.teaches:
            self._along(entry.topic, lambda mass: self.learning @ mass)
        self.mass /= self.mass.sum()

    def _along(self, topic: int, change: Callable[[Array], Array]) -> None:
        self.mass = change(self.mass) if topic == 0 else change(self.mass.T).T

    def mean(self) -> Array:
        """Means of both topics, logits."""
        return np.array([self.mass.sum(axis=1 - k) @ self.axis for k in (0, 1)])

    def chance_above(self, theta: float) -> Array:
        """Chance of each topic to be at or above `theta`."""
        marginals = [self.mass.sum(axis=1 - k) for k in (0, 1)]
        return np.array(
            [np.interp(theta, self.axis, 1 - np.cumsum(m) + 0.5 * m) for m in marginals]
        )
