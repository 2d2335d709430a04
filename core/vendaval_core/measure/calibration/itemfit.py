"""How well items and their versions follow the fitted curves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .curves import Shape, tables
from .marginal import MarginalFit
from .table import MISSING, Scores

FEWEST_PER_VERSION = 8
FEWEST_VERSIONS = 3
WIDE_SPREAD = 0.4
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
    answers = fit.expected.sum(axis=(1, 2))
    squares = np.einsum("jcq,jcq->jq", fit.expected, residual)
    weight = fit.expected.sum(axis=1)
    outfit = (squares / np.maximum(variance, 1e-9)).sum(axis=1) / answers
    infit = squares.sum(axis=1) / (weight * variance).sum(axis=1)
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


def offset_of(fit: MarginalFit, item: int, scores: Scores, rows: NDArray[np.int64]) -> Offset:
    """Return the difficulty offset, logits, of the answers `rows` to an item, by maximum likelihood
    in one parameter.

    scores (N, J): the fitted table. A normal prior of sd 1 keeps a version finite that everybody
    got right. Abilities come from the fit, so offsets are pulled a little towards 0.
    """
    seen = rows[scores[rows, item] != MISSING]
    answers = scores[seen, item]
    weights = fit.posterior[fit.pattern[seen]]
    shape = Shape(fit.shape.categories[[item]], fit.shape.guessing[[item]])
    own = [*range(shape.intercepts + 1), fit.parameters.shape[1] - 1]
    parameters = fit.parameters[[item]][:, own]
    slope, offset, information = parameters[0, 0], 0.0, 1.0
    for _ in range(25):
        moved = parameters.copy()
        moved[0, 1:-1] -= slope * offset
        found = tables(moved, shape, fit.nodes)
        first = -slope * found.scores[0, 1:-1].sum(axis=0)
        second = slope**2 * found.curvature[0, 1:-1, 1:-1].sum(axis=(0, 1))
        gradient = float((weights * first[answers]).sum()) - offset
        information = 1.0 - float((weights * second[answers]).sum())
        step = gradient / max(information, 1e-3)
        offset += float(np.clip(step, -1, 1))
        if abs(step) < 1e-6:
            break
    return Offset(offset, float(1 / np.sqrt(max(information, 1e-3))), len(seen))


def spread(offsets: Sequence[Offset]) -> float | None:
    """Return σ_b of a family's versions, logits: the spread of their offsets beyond their errors.

    Moments, as for random effects (DerSimonian and Laird 1986). None with fewer than three versions
    of eight answers. Item cloning: Glas and van der Linden 2003.
    """
    enough = [o for o in offsets if o.answers >= FEWEST_PER_VERSION]
    if len(enough) < FEWEST_VERSIONS:
        return None
    values = np.array([o.offset for o in enough])
    weights = np.array([o.error for o in enough]) ** -2.0
    mean = weights @ values / weights.sum()
    excess = weights @ (values - mean) ** 2 - (len(values) - 1)
    scale = weights.sum() - (weights**2).sum() / weights.sum()
    return float(np.sqrt(max(0.0, excess / scale)))


def has_drifted(early: Offset, late: Offset) -> bool:
    """Return whether late answers show another difficulty than early ones: by 0.4 logits, and by
    more than chance explains."""
    change = late.offset - early.offset
    error = float(np.hypot(early.error, late.error))
    return abs(change) >= DRIFT and abs(change) / error >= DRIFT_Z
