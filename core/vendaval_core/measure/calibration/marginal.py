"""Marginal maximum likelihood by EM (Bock and Aitkin 1981), with a final Newton step.

Ability is N(0, 1) on fixed nodes. EM steps are accelerated by Anderson's method (1965) and fall
back to plain ones whenever the likelihood falls. Standard errors come from the observed
information (Louis 1982). Missing answers are left out of the likelihood.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit, logsumexp

from vendaval_core.language import gettext

from ...errors import DoesNotSettle
from ..grid import THETA, Array
from .curves import Shape, Tables, tables
from .table import MISSING, ResponseTable

NODE_COUNT = 61
HALF_WIDTH = 6.0
MOST_STEPS = 600
LOOK_BACK = 60
LEAST_CLIMB = 1e-5
SMALL_STEP = 1e-6
LONGEST_STEP = 1.0
MEMORY = 4
RIDGE = 1e-9
LEAST_BELIEF = 1e-12
SLOPE_RANGE = (0.02, 12.0)
OTHER_RANGE = (-25.0, 25.0)


class Model(StrEnum):
    """Curves that can be fitted."""

    RASCH = "rasch"
    TWO = "2pl"
    THREE = "3pl"
    PARTIAL = "gpcm"


@dataclass(frozen=True, slots=True)
class Priors:
    """Normal priors, (mean, sd) or None: of log slope, of γ = logit c, and of difficulty, whose
    mean may differ by item, (J,)."""

    log_slope: tuple[float, float] | None = None
    gamma: tuple[float, float] | None = None


NO_PRIORS = Priors()
THREE_PRIORS = Priors(log_slope=(0.0, 0.5), gamma=(float(logit(0.2)), 0.6))
"""Judgement: slopes about 1, guessing about one in five. Used for the 3PL, which has no stable
maximum without."""


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


@dataclass(slots=True)
class _Problem:
    """Responses as counts of patterns, and which parameters are free or shared. log_weights: of
    the nodes (Q,), or of each row's own (N, Q); rows with one of their own are no pattern."""

    table: ResponseTable
    shape: Shape
    groups: NDArray[np.int64]
    start: Array
    priors: Priors
    nodes: Array
    log_weights: Array
    marks: list[Array] = field(default_factory=list)
    counts: Array = field(default_factory=lambda: np.zeros(0))
    pattern: NDArray[np.int64] = field(default_factory=lambda: np.zeros(0, dtype=np.int64))

    def __post_init__(self) -> None:
        if self.log_weights.ndim == 1:
            rows, self.pattern, counts = np.unique(
                self.table.scores, axis=0, return_inverse=True, return_counts=True
            )
        else:
            rows = self.table.scores
            self.pattern = np.arange(len(rows))
            counts = np.ones(len(rows), dtype=np.int64)
        self.counts = counts.astype(float)
        self.marks = [(rows == c).astype(float) for c in range(int(self.shape.categories.max()))]

    @property
    def size(self) -> int:
        """Number of free parameters F."""
        return int(self.groups.max()) + 1

    def spread(self, free: Array) -> Array:
        """All parameters (J, P) from the free ones (F,)."""
        return np.where(self.groups >= 0, free[self.groups], self.start)

    def gathered(self, values: Array) -> Array:
        """Sum of values (J, P) over each free parameter. Shape (F,)."""
        use = self.groups >= 0
        found = np.bincount(self.groups[use], values[use], minlength=self.size)
        return found.astype(np.float64)

    def first(self) -> Array:
        """The free parameters at the start."""
        count = np.bincount(self.groups[self.groups >= 0], minlength=self.size)
        return self.gathered(self.start) / count

    def solved(self, information: Array, gradient: Array) -> Array:
        """Newton's step (F,) for item-wise information (J, P, P) and gradient (J, P)."""
        use = self.groups >= 0
        if self.size == use.sum():
            pairs = use[:, :, None] & use[:, None, :]
            blocks = np.where(pairs, information, np.eye(use.shape[1]))
            index = np.arange(use.shape[1])
            blocks[:, index, index] += RIDGE * (1.0 + blocks[:, index, index])
            steps = np.linalg.solve(blocks, (gradient * use)[..., None])[..., 0]
            return self.gathered(np.asarray(steps, dtype=np.float64))
        matrix = np.zeros((self.size, self.size))
        for groups, block in zip(self.groups, information, strict=True):
            own = np.flatnonzero(groups >= 0)
            np.add.at(matrix, np.ix_(groups[own], groups[own]), block[np.ix_(own, own)])
        found = np.linalg.solve(matrix, self.gathered(gradient))
        return np.asarray(found, dtype=np.float64)

    def penalty(self, parameters: Array) -> tuple[float, Array, Array]:
        """Log prior, its first derivatives (J, P), and minus its second ones (J, P)."""
        first, second = np.zeros_like(parameters), np.zeros_like(parameters)
        value = 0.0
        if self.priors.log_slope is not None:
            mean, sd = self.priors.log_slope
            slope = parameters[:, 0]
            away = (np.log(slope) - mean) / sd**2
            value -= 0.5 * float((away**2).sum()) * sd**2
            first[:, 0] = -away / slope
            second[:, 0] = (1 / sd**2 - away) / slope**2
        if self.priors.gamma is not None:
            mean, sd = self.priors.gamma
            own = self.shape.guessing
            away = np.where(own, (parameters[:, -1] - mean) / sd**2, 0.0)
            value -= 0.5 * float((away**2).sum()) * sd**2
            first[:, -1] = -away
            second[:, -1] = np.where(own, 1 / sd**2, 0.0)
        return value, first, second


@dataclass(slots=True)
class _Expectation:
    tables: Tables
    posterior: Array
    expected: Array
    log_likelihood: float


def _expect(problem: _Problem, parameters: Array) -> _Expectation:
    """The E step."""
    found = tables(parameters, problem.shape, problem.nodes)
    logs = sum(mark @ found.logs[:, c] for c, mark in enumerate(problem.marks))
    joint = np.asarray(logs + problem.log_weights)
    total = logsumexp(joint, axis=1, keepdims=True)
    posterior = np.exp(joint - total)
    weighted = problem.counts[:, None] * posterior
    expected = np.stack([mark.T @ weighted for mark in problem.marks], axis=1)
    return _Expectation(found, posterior, expected, float(problem.counts @ total[:, 0]))


def _step(problem: _Problem, parameters: Array, now: _Expectation) -> tuple[Array, Array]:
    """The M step: one of Fisher scoring. Step and gradient, each (F,)."""
    scores = now.tables.scores
    _, first, second = problem.penalty(parameters)
    gradient = np.einsum("jcq,jpcq->jp", now.expected, scores) + first
    answers = now.expected.sum(axis=1, keepdims=True) * np.exp(now.tables.logs)
    answers *= problem.shape.categories[:, None, None] > np.arange(answers.shape[1])[:, None]
    left = (scores * answers[:, None]).reshape(*scores.shape[:2], -1)
    right = scores.reshape(*scores.shape[:2], -1)
    information = left @ np.swapaxes(right, 1, 2)
    index = np.arange(information.shape[1])
    information[:, index, index] += np.maximum(second, 0.0) + 1e-9
    step = problem.solved(information, gradient)
    return np.clip(step, -LONGEST_STEP, LONGEST_STEP), problem.gathered(gradient)


def _held(problem: _Problem, free: Array) -> Array:
    """Free parameters held to their ranges; what is no number is where it was at the start."""
    slopes = np.unique(problem.groups[:, 0][problem.groups[:, 0] >= 0])
    held = np.where(np.isfinite(free), free, problem.first())
    held = np.clip(held, *OTHER_RANGE)
    held[slopes] = np.clip(held[slopes], *SLOPE_RANGE)
    return held


def _accelerated(path: list[tuple[Array, Array]]) -> Array:
    """Anderson's next point from the last points and their steps."""
    point, step = path[-1]
    if len(path) == 1:
        return point + step
    points = np.diff(np.array([p for p, _ in path]), axis=0).T
    steps = np.diff(np.array([s for _, s in path]), axis=0).T
    if not np.isfinite(steps).all():
        return point + step
    shares = np.linalg.lstsq(steps, step, rcond=1e-12)[0]
    return np.asarray(point + step - (points + steps) @ shares)


def _climb(
    problem: _Problem, progress: Callable[[int, float], None]
) -> tuple[Array, _Expectation, int, bool]:
    """Accelerated EM from the start until steps are below 1e-6, those that a range holds back
    aside; or until 60 of them bring next to nothing: then it has not come to rest."""
    free = _held(problem, problem.first())
    path: list[tuple[Array, Array]] = []
    heights: list[float] = []
    best = -np.inf
    now = _expect(problem, problem.spread(free))
    for turn in range(1, MOST_STEPS + 1):
        parameters = problem.spread(free)
        height = now.log_likelihood + problem.penalty(parameters)[0]
        if height < best - 1e-9 and path:
            free = _held(problem, path[-1][0] + path[-1][1])
            path, best = [], -np.inf
            now = _expect(problem, problem.spread(free))
            continue
        best = height
        progress(turn, now.log_likelihood)
        heights.append(height)
        step, _ = _step(problem, parameters, now)
        if np.abs(_held(problem, free + step) - free).max() < SMALL_STEP:
            return free, now, turn, True
        if len(heights) > LOOK_BACK and height - heights[-LOOK_BACK] < LEAST_CLIMB:
            return free, now, turn, False
        path = [*path[-MEMORY:], (free, step)]
        free = _held(problem, _accelerated(path))
        now = _expect(problem, problem.spread(free))
    return free, now, MOST_STEPS, False


def _observed_information(problem: _Problem, parameters: Array, now: _Expectation) -> Array:
    """Minus the second derivatives of the penalised marginal log likelihood. Shape (F, F)."""
    scores, curvature = now.tables.scores, now.tables.curvature
    use = problem.groups >= 0
    groups = problem.groups[use]
    size = len(groups)
    within = np.zeros((size, size))
    place = np.full(use.shape, -1)
    place[use] = np.arange(size)
    own = -np.einsum("jcq,jprcq->jpr", now.expected, curvature)
    index = np.arange(own.shape[1])
    own[:, index, index] += problem.penalty(parameters)[2]
    for item, places in enumerate(place):
        there = np.flatnonzero(places >= 0)
        within[np.ix_(places[there], places[there])] = own[item][np.ix_(there, there)]
    items = np.nonzero(use)[0]
    mean = np.zeros((len(problem.counts), size))
    for q in range(len(problem.nodes)):
        at = scores[:, :, :, q][use]
        person = sum(mark[:, items] * at[:, c] for c, mark in enumerate(problem.marks))
        weight = now.posterior[:, q : q + 1]
        mean += weight * person
        person = person * np.sqrt(problem.counts[:, None] * weight)
        within -= person.T @ person
    weighted = mean * np.sqrt(problem.counts[:, None])
    within += weighted.T @ weighted
    gather = np.zeros((problem.size, size))
    gather[groups, np.arange(size)] = 1.0
    return np.asarray(gather @ within @ gather.T)


def _problem(
    table: ResponseTable,
    model: Model,
    guess: Array | None,
    priors: Priors | None,
    beliefs: Array | None,
) -> _Problem:
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
    if beliefs is not None:
        nodes, log_weights = THETA, np.log(np.maximum(beliefs, LEAST_BELIEF))
    chosen = priors or (THREE_PRIORS if model is Model.THREE else NO_PRIORS)
    return _Problem(table, shape, groups, start, chosen, nodes, log_weights)


def fit_marginal(
    table: ResponseTable,
    model: Model,
    *,
    guess: Array | None = None,
    priors: Priors | None = None,
    beliefs: Array | None = None,
    progress: Callable[[int, float], None] = lambda step, log_likelihood: None,
) -> MarginalFit:
    """Fit a model to a table by marginal maximum likelihood (Bock and Aitkin 1981).

    guess (J,): known chances of guessing an item, 0 for none; with it the 2PL has a fixed c per
    item. priors: none by default, THREE_PRIORS for the 3PL. beliefs (N, NODES): masses of each
    row's own ability over the grid, in place of N(0, 1). progress: called with step number and
    log likelihood. An item whose standard error can't be found has nan for it; `settled` says
    whether the estimates converged. Raises DoesNotSettle for a model that can't produce the table's
    scores.
    """
    problem = _problem(table, model, guess, priors, beliefs)
    free, now, steps, settled = _climb(problem, progress)
    parameters = problem.spread(free)
    information = _observed_information(problem, parameters, now)
    covariance = np.full_like(information, np.nan)
    if np.isfinite(information).all() and np.linalg.eigvalsh(information)[0] > 0:
        covariance = np.asarray(np.linalg.inv(information), dtype=np.float64)
        _, gradient = _step(problem, parameters, now)
        polished = _held(problem, free + covariance @ gradient)
        after = _expect(problem, problem.spread(polished))
        if after.log_likelihood >= now.log_likelihood - 1e-6:
            now, parameters = after, problem.spread(polished)
    else:
        settled = False
    size = problem.shape.parameters
    own = np.full((len(table.items), size, size), np.nan)
    for item, groups in enumerate(problem.groups):
        there = np.flatnonzero(groups >= 0)
        own[item][np.ix_(there, there)] = covariance[np.ix_(groups[there], groups[there])]
    index = np.arange(size)
    with np.errstate(invalid="ignore"):
        errors = np.sqrt(own[:, index, index])
    return MarginalFit(
        table.items,
        model,
        problem.shape,
        parameters,
        errors,
        own,
        now.log_likelihood,
        steps,
        settled,
        problem.nodes,
        now.posterior,
        problem.pattern.reshape(-1),
        now.expected,
    )
