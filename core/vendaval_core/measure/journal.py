"""From one try to the next state: the only way evidence moves a learner's levels.

A learner's state is the fold of their entries in order, so it can be made again from the try log
alone. `advance` takes one step for one learner; `rebuild` folds whole histories, many learners
side by side, through the same functions.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .change import Believed, ChangeSettings, age, learn
from .grid import THETA, Array
from .posterior import LearnerState, Posterior, Prior, infer, posterior_of
from .response import Outcome, ResponseCurve
from .sweeps import Gaussian, Joint, converge_damped

BATCH = 64


@dataclass(frozen=True, slots=True)
class Entry:
    """What one try says.

    topic: number in the course. weight: 0 to 1. days: time since the last answer when this try
    begins a sitting, else 0. learning: whether feedback followed, as in practice.
    """

    topic: int
    curve: ResponseCurve
    outcome: Outcome
    weight: float
    days: float = 0.0
    learning: bool = False

    @property
    def teaches(self) -> bool:
        """Whether it is an opportunity to learn: an answer that counts for nothing is none."""
        return self.learning and self.weight > 0


@lru_cache(maxsize=16384)
def _log_likelihood(curve: ResponseCurve, outcome: Outcome) -> Array:
    logs = curve.log_likelihood(outcome, THETA)
    logs.setflags(write=False)
    return logs


class SideBySide:
    """Learners side by side."""

    def __init__(self, prior: Prior, states: Sequence[LearnerState]) -> None:
        self.prior = prior
        self.believed = Believed(
            np.stack([state.rows for state in states]),
            np.stack([state.sites for state in states]),
            np.stack([state.precision for state in states]),
            np.stack([state.shift for state in states]),
            prior.gaussian.variance,
        )

    def converge(self, who: NDArray[np.intp]) -> Joint:
        """Settle the learners of these places and keep their sites."""
        all_ = self.believed
        base = Gaussian(all_.precision[who], all_.shift[who], all_.variance)
        joint = converge_damped(base, all_.rows[who], all_.sites[who])
        all_.sites[who] = joint.sites
        return joint

    def fold(self, entries: dict[int, Entry], settings: ChangeSettings) -> Joint:
        """One entry for each of some learners: time first, then evidence, then learning."""
        for place, entry in entries.items():
            if entry.days > 0:
                joint = self.converge(np.array([place]))
                age(self.prior, self.believed, place, joint, entry.days, settings)
        for place, entry in entries.items():
            if entry.weight > 0:
                row = self.believed.rows[place, entry.topic]
                row += entry.weight * _log_likelihood(entry.curve, entry.outcome)
                row -= row.max()
        who = np.array(list(entries))
        joint = self.converge(who)
        learning = [i for i, entry in enumerate(entries.values()) if entry.teaches]
        if learning:
            topics = np.array([entry.topic for entry in entries.values() if entry.teaches])
            some = joint.part(np.array(learning))
            learn(self.believed, who[learning], topics, some, settings)
            joint.put(np.array(learning), some, np.ones(len(learning), dtype=bool))
        return joint

    def posterior(self, joint: Joint, index: int, place: int) -> Posterior:
        """Posterior of the learner of a place, who is `index` in the joint."""
        return posterior_of(joint, self.believed.rows[place], index)

    def state(self, place: int) -> LearnerState:
        """One learner's state."""
        all_ = self.believed
        arrays = (all_.rows, all_.sites, all_.precision, all_.shift)
        return LearnerState(*(array[place].copy() for array in arrays))


def advance(
    prior: Prior, state: LearnerState, entry: Entry, settings: ChangeSettings
) -> tuple[Posterior, LearnerState]:
    """Return posterior and state after one try: time first, then evidence, then learning."""
    batch = SideBySide(prior, [state])
    joint = batch.fold({0: entry}, settings)
    return batch.posterior(joint, 0, 0), batch.state(0)


def after_days(
    prior: Prior, state: LearnerState, days: float, settings: ChangeSettings
) -> Posterior:
    """Return a learner's posterior after some days (0 or more) without an answer."""
    batch, own = SideBySide(prior, [state]), np.array([0])
    joint = batch.converge(own)
    age(prior, batch.believed, 0, joint, days, settings)
    return batch.posterior(batch.converge(own), 0, 0)


def rebuild(
    prior: Prior,
    histories: Sequence[Sequence[Entry]],
    settings: ChangeSettings,
    progress: Callable[[int], None] = lambda _: None,
) -> list[LearnerState]:
    """Rebuild the states of several learners from all their entries, in order.

    progress: called with the number of learners done. Time is linear in the number of entries.
    Everything happens in the same order as in `advance`, so both end at the same state to the last
    few bits, however loosely the sweeps converge.
    """
    order = sorted(range(len(histories)), key=lambda i: -len(histories[i]))
    states: dict[int, LearnerState] = {}
    for start in range(0, len(order), BATCH):
        block = order[start : start + BATCH]
        batch = SideBySide(prior, [LearnerState.of(prior)] * len(block))
        for turn in range(len(histories[block[0]])):
            entries = {
                place: histories[learner][turn]
                for place, learner in enumerate(block)
                if turn < len(histories[learner])
            }
            batch.fold(entries, settings)
        states |= {learner: batch.state(place) for place, learner in enumerate(block)}
        progress(len(block))
    return [states[i] for i in range(len(histories))]


def largest_difference(prior: Prior, one: LearnerState, other: LearnerState) -> float:
    """Return the greatest difference between two states in the mean or sd of any topic, logits."""
    first, second = (infer(prior, state)[0] for state in (one, other))
    gaps = (first.mean - second.mean, first.sd - second.sd)
    return float(max(np.abs(gap).max() for gap in gaps))
