"""Marginal maximum likelihood by EM (Bock and Aitkin 1981), with a final Newton step.

Ability is N(0, 1) on fixed nodes. Standard errors come from the observed information (Louis 1982).
Missing answers are left out of the likelihood.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit, logsumexp

from vendaval_core.language import gettext

from ...errors import DoesNotSettle
from ..grid import Array
from .curves import Shape
from .em import (
    NO_PRIORS,
    THREE_PRIORS,
    Expect,
    Expectation,
    Expected,
    Model,
    Priors,
    Unknowns,
    climb,
    expectation,
    gradient,
    held,
)
from .table import MISSING, ResponseTable

NODE_COUNT = 61
HALF_WIDTH = 6.0


@dataclass(frozen=True, slots=True)
class MarginalFit:
    """What was fitted.

    parameters (J, P): a, d_1 … d_M, γ (see `curves`). errors (J, P): standard errors, nan where a
    parameter was fixed. covariance (J, P, P): of each item's own parameters. log_likelihood: of
    the responses, priors aside. nodes (Q,), posterior (U, Q): ability of the U response patterns;
    pattern (N,): which of them each row is. expected (J, C, Q): answers by outcome and node.
    """

    items: tuple[str, ...]
    model: Model
    shape: Shape
    parameters: Array
    errors: Array
    covariance: Array
    log_likelihood: float
    steps: int
    settled: bool
    nodes: Array
    posterior: Array
    pattern: NDArray[np.int64]
    expected: Array

    @property
    def slopes(self) -> Array:
        """a, per logit, (J,)."""
        return self.parameters[:, 0]

    @property
    def guesses(self) -> Array:
        """c, (J,)."""
        return np.where(self.shape.guessing, expit(self.parameters[:, -1]), 0.0)


@dataclass(frozen=True, slots=True)
class _Patterns:
    """Responses as patterns: marks (U, J) by outcome, how many persons have each (U,), and which
    one each person has (N,)."""

    marks: list[Array]
    counts: Array
    pattern: NDArray[np.int64]
    log_weights: Array

    @classmethod
    def of(cls, table: ResponseTable, categories: int, log_weights: Array) -> _Patterns:
        rows, pattern, counts = np.unique(
            table.scores, axis=0, return_inverse=True, return_counts=True
        )
        marks = [(rows == c).astype(float) for c in range(categories)]
        return cls(marks, counts.astype(float), pattern.reshape(-1), log_weights)

    def expect(self, logs: Array) -> Expected:
        """What the patterns let expect of the abilities."""
        found = sum(mark @ logs[:, c] for c, mark in enumerate(self.marks))
        joint = np.asarray(found + self.log_weights)
        total = logsumexp(joint, axis=1, keepdims=True)
        posterior = np.exp(joint - total)
        weighted = self.counts[:, None] * posterior
        counts = np.stack([mark.T @ weighted for mark in self.marks], axis=1)
        return Expected(posterior, counts, float(self.counts @ total[:, 0]))


def _observed_information(
    unknowns: Unknowns, patterns: _Patterns, parameters: Array, now: Expectation
) -> Array:
    """Minus the second derivatives of the penalised marginal log likelihood. Shape (F, F)."""
    scores, curvature = now.tables.scores, now.tables.curvature
    use = unknowns.groups >= 0
    groups = unknowns.groups[use]
    size = len(groups)
    within = np.zeros((size, size))
    place = np.full(use.shape, -1)
    place[use] = np.arange(size)
    own = -np.einsum("jcq,jprcq->jpr", now.expected.counts, curvature)
    index = np.arange(own.shape[1])
    own[:, index, index] += unknowns.penalty(parameters)[2]
    for item, places in enumerate(place):
        there = np.flatnonzero(places >= 0)
        within[np.ix_(places[there], places[there])] = own[item][np.ix_(there, there)]
    items = np.nonzero(use)[0]
    mean = np.zeros((len(patterns.counts), size))
    for q in range(len(unknowns.nodes)):
        at = scores[:, :, :, q][use]
        person = sum(mark[:, items] * at[:, c] for c, mark in enumerate(patterns.marks))
        weight = now.expected.posterior[:, q : q + 1]
        mean += weight * person
        person = person * np.sqrt(patterns.counts[:, None] * weight)
        within -= person.T @ person
    weighted = mean * np.sqrt(patterns.counts[:, None])
    within += weighted.T @ weighted
    gather = np.zeros((unknowns.size, size))
    gather[groups, np.arange(size)] = 1.0
    return np.asarray(gather @ within @ gather.T)


def _unknowns(
    table: ResponseTable,
    model: Model,
    guess: Array | None,
    priors: Priors | None,
) -> tuple[Unknowns, _Patterns]:
    """Which parameters are free under a model, and where to start."""
    items = len(table.items)
    categories = table.categories
    if model is not Model.PARTIAL and categories.max() > 2:
        raise DoesNotSettle(gettext("the {model} takes scores 0 and 1 only").format(model=model))
    fixed = np.zeros(items) if guess is None else guess
    guessing = np.ones(items, dtype=bool) if model is Model.THREE else fixed > 0
    shape = Shape(categories, guessing)
    groups = np.full((items, shape.parameters), -1)
    free = shape.present.copy()
    if model is not Model.THREE:
        free[:, -1] = False
    groups[free] = np.arange(free.sum())
    if model is Model.RASCH:
        groups[:, 0] = 0
        groups[:, 1] = 1 + np.arange(items)
    start = np.zeros((items, shape.parameters))
    start[:, 0] = 1.0
    for item, column in enumerate(table.scores.T):
        seen = column[column != MISSING]
        for v in range(1, int(categories[item])):
            share = (np.sum(seen >= v) + 0.5) / (np.sum(seen >= v - 1) + 1.0)
            start[item, v] = logit(share)
    start[:, -1] = logit(np.clip(np.where(fixed > 0, fixed, 0.2), 0.01, 0.9))
    nodes = np.linspace(-HALF_WIDTH, HALF_WIDTH, NODE_COUNT)
    log_weights = np.asarray(-0.5 * nodes**2)
    log_weights -= logsumexp(log_weights)
    chosen = priors or (THREE_PRIORS if model is Model.THREE else NO_PRIORS)
    patterns = _Patterns.of(table, int(categories.max()), log_weights)
    return Unknowns(shape, groups, start, chosen, nodes), patterns


@dataclass(frozen=True, slots=True)
class Polished:
    """Parameters (J, P) after a Newton step from where a climb rested, what is expected there, and
    the covariance of the free ones (F, F), nan where the information is no peak's."""

    parameters: Array
    now: Expectation
    covariance: Array


def polished(
    unknowns: Unknowns, expect: Expect, free: Array, now: Expectation, information: Array
) -> Polished:
    """Return the parameters after one Newton step, kept if the likelihood did not fall.
    information (F, F): observed, at `free` (F,)."""
    parameters = unknowns.spread(free)
    covariance = np.full_like(information, np.nan)
    if not np.isfinite(information).all() or np.linalg.eigvalsh(information)[0] <= 0:
        return Polished(parameters, now, covariance)
    covariance = np.asarray(np.linalg.inv(information), dtype=np.float64)
    onward = held(unknowns, free + covariance @ gradient(unknowns, parameters, now))
    after = expectation(unknowns, unknowns.spread(onward), expect)
    if after.expected.log_likelihood >= now.expected.log_likelihood - 1e-6:
        parameters, now = unknowns.spread(onward), after
    return Polished(parameters, now, covariance)


def fit_of(
    items: tuple[str, ...],
    model: Model,
    unknowns: Unknowns,
    fitted: Polished,
    pattern: NDArray[np.int64],
    steps: int,
    *,
    settled: bool,
) -> MarginalFit:
    """Return what was fitted, with the covariance of each item's own parameters."""
    size = unknowns.shape.parameters
    own = np.full((len(items), size, size), np.nan)
    for item, groups in enumerate(unknowns.groups):
        there = np.flatnonzero(groups >= 0)
        free = groups[there]
        own[item][np.ix_(there, there)] = fitted.covariance[np.ix_(free, free)]
    index = np.arange(size)
    with np.errstate(invalid="ignore"):
        errors = np.sqrt(own[:, index, index])
    expected = fitted.now.expected
    return MarginalFit(
        items,
        model,
        unknowns.shape,
        fitted.parameters,
        errors,
        own,
        expected.log_likelihood,
        steps,
        settled and bool(np.isfinite(fitted.covariance).all()),
        unknowns.nodes,
        expected.posterior,
        pattern,
        expected.counts,
    )


def fit_marginal(
    table: ResponseTable,
    model: Model,
    *,
    guess: Array | None = None,
    priors: Priors | None = None,
    progress: Callable[[int, float], None] = lambda step, log_likelihood: None,
) -> MarginalFit:
    """Fit a model to a table by marginal maximum likelihood (Bock and Aitkin 1981).

    guess (J,): known chances of guessing an item, 0 for none; with it the 2PL has a fixed c per
    item. priors: none by default, THREE_PRIORS for the 3PL. progress: called with step number and
    log likelihood. An item whose standard error can't be found has nan for it; `settled` says
    whether the estimates converged. Raises DoesNotSettle for a model that can't produce the table's
    scores.
    """
    unknowns, patterns = _unknowns(table, model, guess, priors)
    free, now, steps, settled = climb(unknowns, patterns.expect, progress)
    parameters = unknowns.spread(free)
    information = _observed_information(unknowns, patterns, parameters, now)
    fitted = polished(unknowns, patterns.expect, free, now, information)
    return fit_of(table.items, model, unknowns, fitted, patterns.pattern, steps, settled=settled)
