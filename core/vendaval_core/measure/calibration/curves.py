"""Chances of every outcome of every item over the nodes, and their derivatives.

Parameters of an item are slope a, intercepts d_1 … d_M and γ = logit c. With one intercept and no
guessing it is the two-parameter logistic, with guessing the three-parameter one (Birnbaum 1968),
with several intercepts the generalised partial credit model (Muraki 1992), d_v = −a·b_v.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit

from ..grid import Array

LEAST_CHANCE = 1e-300


@dataclass(frozen=True, slots=True)
class Shape:
    """What kind of curve each of J items has.

    categories (J,): number of outcomes. guessing (J,): whether it has a chance c above 0, which
    only items with two outcomes may. intercepts: M, the greatest number of them.
    """

    categories: NDArray[np.int64]
    guessing: NDArray[np.bool_]

    @property
    def intercepts(self) -> int:
        return int(self.categories.max()) - 1

    @property
    def parameters(self) -> int:
        """P: slope, M intercepts, γ."""
        return self.intercepts + 2

    @property
    def present(self) -> NDArray[np.bool_]:
        """Which of the P parameters each item has. Shape (J, P)."""
        steps = np.arange(self.intercepts)[None, :] < self.categories[:, None] - 1
        slope = np.ones((len(self.categories), 1), dtype=bool)
        return np.hstack([slope, steps, self.guessing[:, None]])


@dataclass(frozen=True, slots=True)
class Tables:
    """Over Q nodes: log chances (J, C, Q), scores (J, P, C, Q): first derivatives of them, and
    curvature (J, P, P, C, Q): second ones. Outcomes that an item has not are 0 in all."""

    logs: Array
    scores: Array
    curvature: Array


def _graded(parameters: Array, shape: Shape, nodes: Array) -> Tables:
    items, most = len(parameters), shape.intercepts
    slope, steps = parameters[:, 0], parameters[:, 1 : most + 1]
    terms = slope[:, None, None] * nodes + steps[:, :, None]
    logits = np.concatenate([np.zeros((items, 1, len(nodes))), np.cumsum(terms, axis=1)], axis=1)
    there = np.arange(most + 1)[None, :] < shape.categories[:, None]
    logits = np.where(there[:, :, None], logits, -np.inf)
    logits -= logits.max(axis=1, keepdims=True)
    weights = np.exp(logits)
    total = weights.sum(axis=1, keepdims=True)
    chance = weights / total
    with np.errstate(divide="ignore"):
        logs = np.where(there[:, :, None], logits - np.log(total), 0.0)
    # reach[j, v, k]: whether outcome k lies above step v; the slope's "step" counts outcomes.
    outcome = np.arange(most + 1)
    above = (outcome[None, :] > np.arange(most)[:, None]).astype(float)
    features = np.concatenate([outcome[None, :].astype(float), above])
    mean = np.einsum("fk,jkq->jfq", features, chance)
    scores = np.zeros((items, shape.parameters, most + 1, len(nodes)))
    scores[:, : most + 1] = features[None, :, :, None] - mean[:, :, None, :]
    scores[:, 0] *= nodes
    scores *= there[:, None, :, None]
    covariance = np.einsum("fk,gk,jkq->jfgq", features, features, chance)
    covariance -= mean[:, :, None] * mean[:, None, :]
    covariance[:, 0] *= nodes
    covariance[:, :, 0] *= nodes
    curvature = np.zeros((items, shape.parameters, shape.parameters, most + 1, len(nodes)))
    curvature[:, : most + 1, : most + 1] = -covariance[:, :, :, None, :]
    return Tables(logs, scores, curvature * there[:, None, None, :, None])


def _guessed(parameters: Array, nodes: Array) -> Tables:
    """Items of two outcomes with guessing; parameters (J, 3): a, d, γ."""
    slope, intercept, gamma = (column[:, None] for column in parameters.T)
    knows, guess = expit(slope * nodes + intercept), expit(gamma)
    right = guess + (1 - guess) * knows
    chances = np.stack([(1 - guess) * (1 - knows), right], axis=1)
    logs = np.log(np.maximum(chances, LEAST_CHANCE))
    spread = knows * (1 - knows)
    first_z, first_g = (1 - guess) * spread / right, guess * (1 - guess) * (1 - knows) / right
    wide = np.broadcast_to(guess, knows.shape)
    by_z = np.stack([-knows, first_z], axis=1)
    by_g = np.stack([-wide, first_g], axis=1)
    second_z = (1 - guess) * spread * (1 - 2 * knows) / right - first_z**2
    second_g = guess * (1 - guess) * (1 - 2 * guess) * (1 - knows) / right - first_g**2
    mixed = -guess * (1 - guess) * spread / right - first_z * first_g
    zz = np.stack([-spread, second_z], axis=1)
    gg = np.stack([-wide * (1 - wide), second_g], axis=1)
    zg = np.stack([np.zeros_like(knows), mixed], axis=1)
    scores = np.stack([by_z * nodes, by_z, by_g], axis=1)
    rows = ((zz * nodes**2, zz * nodes, zg * nodes), (zz * nodes, zz, zg), (zg * nodes, zg, gg))
    curvature = np.stack([np.stack(row, axis=1) for row in rows], axis=1)
    return Tables(logs, scores, curvature)


def tables(parameters: Array, shape: Shape, nodes: Array) -> Tables:
    """Return the outcome probabilities of J items and their derivatives at `nodes` (Q,), logits.
    parameters (J, P): a, d_1 … d_M, γ."""
    found = _graded(parameters, shape, nodes)
    who = np.flatnonzero(shape.guessing)
    if len(who):
        own = np.array([0, 1, shape.parameters - 1])
        guessed = _guessed(parameters[np.ix_(who, own)], nodes)
        found.logs[who, :2] = guessed.logs
        for place, parameter in enumerate(own):
            found.scores[who, parameter, :2] = guessed.scores[:, place]
            for other_place, other in enumerate(own):
                found.curvature[who, parameter, other, :2] = guessed.curvature[
                    :, place, other_place
                ]
    return found
