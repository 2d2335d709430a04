"""Posterior moments by dense quadrature: the exact answer that the fast one is held to."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import numpy as np

from vendaval_core.measure.grid import Array
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
