"""Expectation maximisation for item parameters, whatever is expected of the abilities.

What the answers let expect of the abilities is asked of a function, so that one climb serves
persons who stay as they are (`marginal.py`) and learners who move (`moving.py`). Steps are
accelerated by Anderson's method (1965) and fall back to plain ones whenever the likelihood falls.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray
from scipy.special import logit

from ..grid import Array
from .curves import Shape, Tables, tables

MOST_STEPS = 600
LOOK_BACK = 60
LEAST_CLIMB = 1e-5
SMALL_STEP = 1e-6
LONGEST_STEP = 1.0
MEMORY = 4
RIDGE = 1e-9
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
class Expected:
    """What answers let expect of abilities over Q nodes. posterior (U, Q): of each pattern or
    answer. counts (J, C, Q): answers by item, outcome and node."""

    posterior: Array
    counts: Array
    log_likelihood: float


Expect = Callable[[Array], Expected]
"""What follows from log chances of outcomes (J, C, Q)."""


@dataclass(slots=True)
class Unknowns:
    """The parameters (J, P) of items, and which of them are free or shared. groups (J, P): number
    of the free parameter that each is, -1 where it stays as at the start."""

    shape: Shape
    groups: NDArray[np.int64]
    start: Array
    priors: Priors
    nodes: Array

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
class Expectation:
    """Where a climb is: the tables at its parameters, and what is expected there."""

    tables: Tables
    expected: Expected


def expectation(unknowns: Unknowns, parameters: Array, expect: Expect) -> Expectation:
    """Return what is expected at some parameters (J, P): the E step."""
    found = tables(parameters, unknowns.shape, unknowns.nodes)
    return Expectation(found, expect(found.logs))


def gradient(unknowns: Unknowns, parameters: Array, now: Expectation) -> Array:
    """Return the first derivatives of the penalised log likelihood by the free parameters (F,): by
    Fisher's identity what is expected of those of the complete data."""
    _, first, _ = unknowns.penalty(parameters)
    return unknowns.gathered(
        np.einsum("jcq,jpcq->jp", now.expected.counts, now.tables.scores) + first
    )


def step(unknowns: Unknowns, parameters: Array, now: Expectation) -> Array:
    """Return a step of the free parameters (F,), one of Fisher scoring: the M step."""
    scores = now.tables.scores
    _, first, second = unknowns.penalty(parameters)
    by_item = np.einsum("jcq,jpcq->jp", now.expected.counts, scores) + first
    answers = now.expected.counts.sum(axis=1, keepdims=True) * np.exp(now.tables.logs)
    answers *= unknowns.shape.categories[:, None, None] > np.arange(answers.shape[1])[:, None]
    left = (scores * answers[:, None]).reshape(*scores.shape[:2], -1)
    right = scores.reshape(*scores.shape[:2], -1)
    information = left @ np.swapaxes(right, 1, 2)
    index = np.arange(information.shape[1])
    information[:, index, index] += np.maximum(second, 0.0) + 1e-9
    found = unknowns.solved(information, by_item)
    return np.clip(found, -LONGEST_STEP, LONGEST_STEP)


def held(unknowns: Unknowns, free: Array) -> Array:
    """Return free parameters held to their ranges; what is no number is as at the start."""
    slopes = np.unique(unknowns.groups[:, 0][unknowns.groups[:, 0] >= 0])
    within = np.where(np.isfinite(free), free, unknowns.first())
    within = np.clip(within, *OTHER_RANGE)
    within[slopes] = np.clip(within[slopes], *SLOPE_RANGE)
    return within


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


def climb(
    unknowns: Unknowns,
    expect: Expect,
    progress: Callable[[int, float], None],
    small: float = SMALL_STEP,
) -> tuple[Array, Expectation, int, bool]:
    """Climb by accelerated EM from the start until steps are below `small`, those that a range
    holds back aside; or until 60 of them bring next to nothing: then it has not come to rest.
    Returns the free parameters (F,), what is expected there, the steps, and whether it rests."""
    free = held(unknowns, unknowns.first())
    path: list[tuple[Array, Array]] = []
    heights: list[float] = []
    best = -np.inf
    now = expectation(unknowns, unknowns.spread(free), expect)
    for turn in range(1, MOST_STEPS + 1):
        parameters = unknowns.spread(free)
        height = now.expected.log_likelihood + unknowns.penalty(parameters)[0]
        if height < best - 1e-9 and path:
            free = held(unknowns, path[-1][0] + path[-1][1])
            path, best = [], -np.inf
            now = expectation(unknowns, unknowns.spread(free), expect)
            continue
        best = height
        progress(turn, now.expected.log_likelihood)
        heights.append(height)
        onward = step(unknowns, parameters, now)
        if np.abs(held(unknowns, free + onward) - free).max() < small:
            return free, now, turn, True
        if len(heights) > LOOK_BACK and height - heights[-LOOK_BACK] < LEAST_CLIMB:
            return free, now, turn, False
        path = [*path[-MEMORY:], (free, onward)]
        free = held(unknowns, _accelerated(path))
        now = expectation(unknowns, unknowns.spread(free), expect)
    return free, now, MOST_STEPS, False
