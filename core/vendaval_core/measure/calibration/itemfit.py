"""How well items and their versions follow the fitted curves."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp

from ..grid import Array
from .curves import Shape, tables
from .marginal import MarginalFit

FEWEST_VERSIONS = 3
WIDE_SPREAD = 0.4
OFFSETS = np.linspace(-4, 4, 81)
SPREADS = np.arange(0, 2.01, 0.02)
SURELY = 2.706
"""Likelihood ratio at which a spread is told from none: 5%, with a variance at its edge (Self and
Liang 1987)."""
DRIFT = 0.4
DRIFT_Z = 2.576


@dataclass(frozen=True, slots=True)
class ItemFit:
    """Mean squares, 1 when answers scatter as the curve says; above it they scatter more.

    outfit: of standardised residuals. infit: weighted by information. answers: how many.
    """

    outfit: float
    infit: float
    answers: int


def item_fit(fit: MarginalFit) -> list[ItemFit]:
    """Return outfit and infit of every item (Wright and Masters 1982), averaged over each person's
    posterior.

    Averaging over the ability, rather than estimating it, makes the expected value exactly 1.
    """
    found = tables(fit.parameters, fit.shape, fit.nodes)
    outcome = np.arange(fit.expected.shape[1])
    there = outcome[None, :] < fit.shape.categories[:, None]
    chance = np.exp(found.logs) * there[:, :, None]
    mean = np.einsum("c,jcq->jq", outcome, chance)
    variance = np.einsum("c,jcq->jq", outcome**2, chance) - mean**2
    residual = (outcome[None, :, None] - mean[:, None, :]) ** 2
    answers = np.maximum(fit.expected.sum(axis=(1, 2)), 1e-9)
    squares = np.einsum("jcq,jcq->jq", fit.expected, residual)
    weight = fit.expected.sum(axis=1)
    outfit = (squares / np.maximum(variance, 1e-9)).sum(axis=1) / answers
    infit = squares.sum(axis=1) / np.maximum((weight * variance).sum(axis=1), 1e-9)
    return [
        ItemFit(float(o), float(i), round(float(n)))
        for o, i, n in zip(outfit, infit, answers, strict=True)
    ]


@dataclass(frozen=True, slots=True)
class Offset:
    """How much harder (logits, positive) a part of an item's answers is than the whole."""

    offset: float
    error: float
    answers: int


@dataclass(frozen=True, slots=True)
class Answered:
    """Some answers to one item. outcomes (n,). beliefs (n, Q): masses of each person's ability by
    everything else that they answered. nodes (Q,)."""

    outcomes: NDArray[np.int64]
    beliefs: Array
    nodes: Array

    @classmethod
    def of(
        cls, fit: MarginalFit, item: int, rows: NDArray[np.int64], outcomes: NDArray[np.int64]
    ) -> Answered:
        """The answers `rows` to an item of a fit, each taken out of what is believed with it."""
        shape, own = _alone(fit, item)
        logs = tables(own, shape, fit.nodes).logs[0]
        beliefs = fit.posterior[fit.pattern[rows]] / np.exp(logs[outcomes])
        return cls(outcomes, beliefs / beliefs.sum(axis=1, keepdims=True), fit.nodes)


def _alone(fit: MarginalFit, item: int) -> tuple[Shape, Array]:
    """One item of a fit by itself: its shape and its parameters (1, P)."""
    shape = Shape(fit.shape.categories[[item]], fit.shape.guessing[[item]])
    own = [*range(shape.intercepts + 1), fit.parameters.shape[1] - 1]
    return shape, fit.parameters[[item]][:, own]


def _moved(parameters: Array, offset: float) -> Array:
    moved = parameters.copy()
    moved[0, 1:-1] -= parameters[0, 0] * offset
    return moved


def offset_of(answered: Answered, shape: Shape, parameters: Array) -> Offset:
    """Return the difficulty offset, logits, of some answers from the curve of `parameters` (1, P),
    by marginal maximum likelihood in one parameter.

    A normal prior of sd 1 keeps a version finite that everybody got right.
    """
    slope, offset, information = parameters[0, 0], 0.0, 1.0
    for _ in range(30):
        found = tables(_moved(parameters, offset), shape, answered.nodes)
        weights = answered.beliefs * np.exp(found.logs[0][answered.outcomes])
        weights /= weights.sum(axis=1, keepdims=True)
        first = -slope * found.scores[0, 1:-1].sum(axis=0)[answered.outcomes]
        second = slope**2 * found.curvature[0, 1:-1, 1:-1].sum(axis=(0, 1))[answered.outcomes]
        mean = (weights * first).sum(axis=1)
        # Louis (1982): what is known of the complete data, less what the ability leaves open.
        open_ = (weights * first**2).sum(axis=1) - mean**2
        gradient = float(mean.sum()) - offset
        information = 1.0 - float((weights * second).sum() + open_.sum())
        step = gradient / max(information, 1e-3)
        offset += float(np.clip(step, -1, 1))
        if abs(step) < 1e-6:
            break
    return Offset(offset, float(1 / np.sqrt(max(information, 1e-3))), len(answered.outcomes))


@dataclass(frozen=True, slots=True)
class Agreement:
    """Whether able learners do better at an item. z: how far the outcomes go with ability beside
    what a curve expects, in standard errors. rises: whether they go with it at all."""

    z: float
    rises: bool


def agreement(answered: Answered, shape: Shape, parameters: Array) -> Agreement:
    """Return how the outcomes of an item go with the abilities believed from everything else.

    It is held against what the curve of `parameters` (1, P) expects when it is moved to the item's
    own difficulty: a covariance with the mean ability, standardised by its variance there.
    """
    offset = offset_of(answered, shape, parameters).offset
    logs = tables(_moved(parameters, offset), shape, answered.nodes).logs[0]
    score = np.arange(len(logs))
    chances = answered.beliefs @ np.exp(logs).T
    chances /= chances.sum(axis=1, keepdims=True)
    expected = chances @ score
    variance = chances @ score**2 - expected**2
    ability = answered.beliefs @ answered.nodes
    weight = ability - ability.mean()
    beside = float(weight @ (answered.outcomes - expected))
    error = float(np.sqrt(weight**2 @ variance))
    plain = float(weight @ (answered.outcomes - answered.outcomes.mean()))
    return Agreement(beside / max(error, 1e-9), plain > 0)


@dataclass(frozen=True, slots=True)
class Spread:
    """σ_b of a family's versions, logits, and whether the answers tell it from none."""

    sd: float
    sure: bool


def spread_of(
    answered: Answered, versions: NDArray[np.int64], shape: Shape, parameters: Array
) -> Spread | None:
    """Return the spread of the difficulties of a family's versions, by marginal maximum likelihood:
    each version's own offset is drawn from N(0, σ_b²) and integrated out. None with too few
    versions that were answered twice. Item cloning: Glas and van der Linden 2003.

    versions (n,): of each answer. parameters (1, P): the family's curve.
    """
    _, number, counts = np.unique(versions, return_inverse=True, return_counts=True)
    if int((counts > 1).sum()) < FEWEST_VERSIONS:
        return None
    own = np.zeros((len(counts), len(OFFSETS)))
    for place, offset in enumerate(OFFSETS):
        chances = np.exp(tables(_moved(parameters, offset), shape, answered.nodes).logs[0])
        said = (answered.beliefs @ chances.T)[np.arange(len(number)), answered.outcomes]
        np.add.at(own[:, place], number, np.log(np.maximum(said, 1e-300)))
    heights = np.array(
        [logsumexp(own + _normal(sd)[None, :], axis=1).sum() for sd in SPREADS], dtype=np.float64
    )
    best = int(heights.argmax())
    return Spread(float(SPREADS[best]), bool(2 * (heights[best] - heights[0]) > SURELY))


def _normal(sd: float) -> Array:
    """Log masses of N(0, sd²) over OFFSETS; all at 0 when sd is 0."""
    if sd == 0:
        return np.where(OFFSETS == 0, 0.0, -np.inf)
    logs = -0.5 * (OFFSETS / sd) ** 2
    return np.asarray(logs - logsumexp(logs))


def has_drifted(early: Offset, late: Offset) -> bool:
    """Return whether late answers show another difficulty than early ones: by 0.4 logits, and by
    more than chance explains."""
    change = late.offset - early.offset
    error = float(np.hypot(early.error, late.error))
    return abs(change) >= DRIFT and abs(change) / error >= DRIFT_Z
