"""Item parameters from learners who move while they answer: a hidden Markov model on the grid.

A learner's ability in a topic begins as the course believes, spreads with time, and takes a step
after an answer that teaches, as `measure/change.py` says. The forward and backward recursions
(Baum, Petrie, Soules and Weiss 1970) give what all of a learner's answers let expect of the ability
at each of them. So what practice chose by earlier answers, and what it taught, is in the likelihood
and shrinks no difficulty: with one ability for a whole sitting it would.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import logit

from ..grid import NODES, THETA, Array
from ..kernels import ChangeSettings, learning_kernel, time_kernel
from ..response import ResponseCurve
from .curves import Shape
from .em import Expected, Model, Priors, Unknowns, climb, expectation, gradient
from .marginal import MarginalFit, fit_of, polished

LEARNERS_AT_ONCE = 256
SMALL_STEP = 1e-3
NUDGE = 0.02
LEAST_MASS = 1e-12
DAYS = np.array([0.0, 1, 2, 4, 7, 14, 30, 60, 120])
"""Times away are taken as the nearest of these, on a scale of ratios."""


@dataclass(frozen=True, slots=True)
class Given:
    """One answer of a learner in a topic. item: number of its family. weight: 0 to 1; at 0 it is
    no evidence. days: since their answer before it in the topic. teaches: whether they may have
    learned by it."""

    item: int
    outcome: int
    weight: float
    days: float
    teaches: bool


@dataclass(frozen=True, slots=True)
class _Block:
    """Some learners side by side, n of them and T turns; arrays (n, T). there: whether a learner
    has a turn. row: of each answer among all. since: number of the time before it in DAYS."""

    there: NDArray[np.bool_]
    item: NDArray[np.int64]
    outcome: NDArray[np.int64]
    weight: Array
    since: NDArray[np.int64]
    teaches: NDArray[np.bool_]
    row: NDArray[np.int64]

    @classmethod
    def of(cls, histories: Sequence[Sequence[Given]], first_row: int) -> _Block:
        shape = len(histories), max(map(len, histories))
        found = cls(
            np.zeros(shape, dtype=bool),
            np.zeros(shape, dtype=np.int64),
            np.zeros(shape, dtype=np.int64),
            np.zeros(shape),
            np.zeros(shape, dtype=np.int64),
            np.zeros(shape, dtype=bool),
            np.zeros(shape, dtype=np.int64),
        )
        for learner, history in enumerate(histories):
            own = slice(0, len(history))
            found.there[learner, own] = True
            found.item[learner, own] = [one.item for one in history]
            found.outcome[learner, own] = [one.outcome for one in history]
            found.weight[learner, own] = [one.weight for one in history]
            found.since[learner, own] = [nearest(one.days) for one in history]
            found.teaches[learner, own] = [one.teaches for one in history]
            found.row[learner, own] = first_row + np.arange(len(history))
            first_row += len(history)
        return found


def nearest(days: float) -> int:
    """Return the number of the time in DAYS that is nearest to some days."""
    return int(np.abs(np.log1p(DAYS) - np.log1p(days)).argmin())


class Moving:
    """Learners of one topic, each with their answers in order."""

    def __init__(
        self, histories: Sequence[Sequence[Given]], begins: Array, settings: ChangeSettings
    ) -> None:
        """begins (NODES,): masses of the ability before any answer."""
        self.begins = begins
        self.learned = learning_kernel(settings)
        self.passed = [time_kernel(float(days), settings) for days in DAYS]
        order = sorted((h for h in histories if h), key=len)
        self.answers = [one for history in order for one in history]
        self.blocks: list[_Block] = []
        row = 0
        for start in range(0, len(order), LEARNERS_AT_ONCE):
            some = order[start : start + LEARNERS_AT_ONCE]
            self.blocks.append(_Block.of(some, row))
            row += sum(map(len, some))

    def expect(self, logs: Array) -> Expected:
        """What all answers let expect of the ability at each. logs (J, C, NODES)."""
        posterior = np.empty((len(self.answers), NODES))
        counts = np.zeros(logs.shape)
        height = 0.0
        for block in self.blocks:
            height += self._smooth(block, logs, posterior)
            own = block.there
            at = block.row[own]
            np.add.at(
                counts,
                (block.item[own], block.outcome[own]),
                block.weight[own][:, None] * posterior[at],
            )
        return Expected(posterior, counts, height)

    def _away(self, mass: Array, since: NDArray[np.int64], *, back: bool = False) -> None:
        for number in np.unique(since[since > 0]):
            who, kernel = since == number, self.passed[number]
            mass[who] = mass[who] @ (kernel if back else kernel.T)

    def _smooth(self, block: _Block, logs: Array, posterior: Array) -> float:
        """Forward and backward over the turns: fills the rows of `posterior`, and returns the log
        likelihood."""
        people, turns = block.there.shape
        forward = np.empty((turns, people, NODES))
        said = np.ones((turns, people, NODES))
        mass, height = np.tile(self.begins, (people, 1)), 0.0
        for turn in range(turns):
            there, teaches = block.there[:, turn], block.teaches[:, turn]
            self._away(mass, block.since[:, turn])
            own = logs[block.item[there, turn], block.outcome[there, turn]]
            said[turn][there] = np.exp(block.weight[there, turn, None] * own)
            mass = mass * said[turn]
            total = mass.sum(axis=1, keepdims=True)
            mass /= total
            height += float(np.log(total[there]).sum())
            forward[turn] = mass
            mass[teaches] = mass[teaches] @ self.learned.T
        later = np.ones((people, NODES))
        for turn in reversed(range(turns)):
            there, teaches = block.there[:, turn], block.teaches[:, turn]
            later[teaches] = later[teaches] @ self.learned
            found = forward[turn][there] * later[there]
            found /= found.sum(axis=1, keepdims=True)
            posterior[block.row[there, turn]] = found
            later = later * said[turn]
            self._away(later, block.since[:, turn], back=True)
            later /= later.max(axis=1, keepdims=True)
        return height


def parameters_of(curves: Sequence[ResponseCurve]) -> tuple[Shape, Array]:
    """Return the shape of some curves, and their parameters (J, P)."""
    categories = np.array([curve.categories for curve in curves])
    shape = Shape(categories, np.array([curve.c > 0 for curve in curves]))
    start = np.zeros((len(curves), shape.parameters))
    for item, curve in enumerate(curves):
        steps = np.array(curve.steps or (curve.b,))
        start[item, 0] = curve.a
        start[item, 1 : 1 + len(steps)] = -curve.a * steps
        start[item, -1] = logit(np.clip(curve.c, 0.01, 0.9))
    return shape, start


def _information(unknowns: Unknowns, moving: Moving, free: Array) -> Array:
    """Minus the second derivatives of the penalised log likelihood (F, F): differences of the
    first ones, which Fisher's identity gives exactly."""
    found = np.empty((len(free), len(free)))
    for place in range(len(free)):
        sides = []
        for sign in (1, -1):
            nudged = free.copy()
            nudged[place] += sign * NUDGE
            parameters = unknowns.spread(nudged)
            now = expectation(unknowns, parameters, moving.expect)
            sides.append(gradient(unknowns, parameters, now))
        found[place] = (sides[1] - sides[0]) / (2 * NUDGE)
    return np.asarray(0.5 * (found + found.T))


def fit_moving(
    curves: dict[str, ResponseCurve],
    moving: Moving,
    kept: Sequence[str] = (),
    *,
    priors: Priors,
    progress: Callable[[int, float], None] = lambda step, log_likelihood: None,
) -> MarginalFit:
    """Fit the curves of a topic's families to learners who move, by marginal maximum likelihood.

    curves: to start from, in the order of the items of `moving`; chances of guessing stay. kept:
    families whose curve stays, and which are evidence all the same. The scale is that of the
    abilities that `moving` begins with. Rows of the result are the answers of `moving`.
    """
    shape, start = parameters_of(list(curves.values()))
    free = shape.present.copy()
    free[:, -1] = False
    free[[item for item, key in enumerate(curves) if key in set(kept)]] = False
    groups = np.full(start.shape, -1)
    groups[free] = np.arange(free.sum())
    unknowns = Unknowns(shape, groups, start, priors, THETA)
    found, now, steps, settled = climb(unknowns, moving.expect, progress, SMALL_STEP)
    information = _information(unknowns, moving, found)
    fitted = polished(unknowns, moving.expect, found, now, information)
    rows = np.arange(len(moving.answers))
    return fit_of(tuple(curves), Model.PARTIAL, unknowns, fitted, rows, steps, settled=settled)


def normal_start(mean: float, sd: float) -> Array:
    """Return the masses of N(mean, sd²) over the grid."""
    mass = np.exp(-0.5 * ((THETA - mean) / sd) ** 2)
    return np.asarray(np.maximum(mass / mass.sum(), LEAST_MASS))
