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

from .change import Away, Believed, age, lapsing, learning, move_topics
from .grid import THETA, Array
from .kernels import ChangeSettings
from .posterior import LearnerState, Posterior, Prior, infer, posterior_of
from .rates import Followed, prior_paces
from .response import Outcome, ResponseCurve
from .sweeps import Gaussian, Joint, converge_damped

BATCH = 64
# Of what a state holds and how it is folded: with another one, states are made again from the log.
MODEL = 2


@dataclass(frozen=True, slots=True)
class Entry:
    """What one try says.

    topic: number in the course. weight: 0 to 1. days: time since the last answer when this try
    begins a sitting, else 0. learning: whether feedback followed, as in practice. lapse: chance
    that some of the topic was lost before it, 0 unless it begins a recheck.
    """

    topic: int
    curve: ResponseCurve
    outcome: Outcome
    weight: float
    days: float = 0.0
    learning: bool = False
    lapse: float = 0.0

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

    def __init__(
        self, prior: Prior, states: Sequence[LearnerState], settings: ChangeSettings
    ) -> None:
        self.prior, self.settings = prior, settings
        self.followed = Followed.beside([state.followed for state in states], prior.size, settings)
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

    def pass_days(self, place: int, joint: Joint, days: float) -> None:
        """Days (0 or more) without answers of one learner. joint: of theirs alone, converged."""
        time = Away(days, *self.followed.fade(place, days))
        age(self.prior, self.believed, place, joint, time, self.settings)

    def _take(self, place: int, entry: Entry) -> None:
        row = self.believed.rows[place, entry.topic]
        logs = entry.weight * _log_likelihood(entry.curve, entry.outcome)
        row += logs
        row -= row.max()
        topic = entry.topic
        begins = (float(self.prior.mean[topic]), float(self.prior.covariance[topic, topic]))
        self.followed.take(place, topic, begins, np.exp(logs), teaches=entry.teaches)

    def fold(self, entries: dict[int, Entry]) -> Joint:
        """One entry for each of some learners: time first, then evidence, then learning."""
        for place, entry in entries.items():
            if entry.days > 0:
                self.pass_days(place, self.converge(np.array([place])), entry.days)
        self._lapse(entries, [place for place, entry in entries.items() if entry.lapse > 0])
        for place, entry in entries.items():
            if entry.weight > 0:
                self._take(place, entry)
        who = np.array(list(entries))
        joint = self.converge(who)
        taught = [i for i, entry in enumerate(entries.values()) if entry.teaches]
        if taught:
            topics = np.array([entry.topic for entry in entries.values() if entry.teaches])
            some = joint.part(np.array(taught))
            paces, _ = prior_paces(self.settings)
            own = self.followed.chances(who[taught]).sum(axis=2) @ paces
            move = learning(own, self.settings)
            move_topics(self.believed, who[taught], topics, some, move)
            joint.put(np.array(taught), some, np.ones(len(taught), dtype=bool))
        return joint

    def _lapse(self, entries: dict[int, Entry], checked: list[int]) -> None:
        """What may have been lost of topics before they are checked."""
        if not checked:
            return
        who, some = np.array(checked), [entries[place] for place in checked]
        topics = np.array([entry.topic for entry in some])
        chances = np.array([entry.lapse for entry in some])
        move = lapsing(chances, self.settings)
        move_topics(self.believed, who, topics, self.converge(who), move)
        for place, entry in zip(checked, some, strict=True):
            self.followed.lapse(place, entry.topic, entry.lapse)

    def posterior(self, joint: Joint, index: int, place: int) -> Posterior:
        """Posterior of the learner of a place, who is `index` in the joint."""
        return posterior_of(joint, self.believed.rows[place], index)

    def state(self, place: int) -> LearnerState:
        """One learner's state."""
        all_ = self.believed
        arrays = (all_.rows, all_.sites, all_.precision, all_.shift)
        rows, sites, precision, shift = (array[place].copy() for array in arrays)
        return LearnerState(rows, sites, precision, shift, self.followed.one(place))


def advance(
    prior: Prior, state: LearnerState, entry: Entry, settings: ChangeSettings
) -> tuple[Posterior, LearnerState]:
    """Return posterior and state after one try: time first, then evidence, then learning."""
    batch = SideBySide(prior, [state], settings)
    joint = batch.fold({0: entry})
    return batch.posterior(joint, 0, 0), batch.state(0)


def after_days(
    prior: Prior, state: LearnerState, days: float, settings: ChangeSettings
) -> Posterior:
    """Return a learner's posterior after some days (0 or more) without an answer."""
    batch, own = SideBySide(prior, [state], settings), np.array([0])
    batch.pass_days(0, batch.converge(own), days)
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
        batch = SideBySide(prior, [LearnerState.of(prior)] * len(block), settings)
        for turn in range(len(histories[block[0]])):
            entries = {
                place: histories[learner][turn]
                for place, learner in enumerate(block)
                if turn < len(histories[learner])
            }
            batch.fold(entries)
        states |= {learner: batch.state(place) for place, learner in enumerate(block)}
        progress(len(block))
    return [states[i] for i in range(len(histories))]


def largest_difference(prior: Prior, one: LearnerState, other: LearnerState) -> float:
    """Return the greatest difference between two states in the mean or sd of any topic, logits."""
    first, second = (infer(prior, state)[0] for state in (one, other))
    gaps = (first.mean - second.mean, first.sd - second.sd)
    return float(max(np.abs(gap).max() for gap in gaps))
