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

from .change import ChangeSettings, aged_rows, learned_rows
from .grid import THETA, Array
from .posterior import LearnerState, Posterior, Prior, infer, posterior_of
from .response import Outcome, ResponseCurve
from .sweeps import Joint, settle

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


@lru_cache(maxsize=16384)
def _log_likelihood(curve: ResponseCurve, outcome: Outcome) -> Array:
    logs = curve.log_likelihood(outcome, THETA)
    logs.setflags(write=False)
    return logs


class _Histories:
    """Learners side by side: rows (B, K, NODES) and sites (B, 2K) where the sweeps ended."""

    def __init__(self, prior: Prior, states: Sequence[LearnerState]) -> None:
        self.prior = prior
        self.rows = np.stack([state.rows for state in states])
        self.sites = np.stack([state.sites for state in states])

    def settled(self, who: list[int]) -> Joint:
        """Settle the learners of these places and keep their sites."""
        joint = settle(self.prior.gaussian, self.rows[who], self.sites[who])
        self.sites[who] = joint.sites
        return joint

    def age(self, entries: dict[int, Entry], settings: ChangeSettings) -> None:
        """Time before the entries that begin a sitting."""
        who = [place for place, entry in entries.items() if entry.days > 0]
        if not who:
            return
        joint = self.settled(who)
        for i, place in enumerate(who):
            self.rows[place] = aged_rows(
                self.prior,
                self.rows[place],
                joint.cavity_precision[i],
                joint.cavity_shift[i],
                entries[place].days,
                settings,
            )

    def weigh(self, entries: dict[int, Entry]) -> None:
        """Evidence of the entries."""
        for place, entry in entries.items():
            if entry.weight > 0:
                row = self.rows[place, entry.topic]
                row += entry.weight * _log_likelihood(entry.curve, entry.outcome)
                row -= row.max()

    def learn(self, entries: dict[int, Entry], settings: ChangeSettings) -> None:
        """Learning after the entries that were practice."""
        who = [place for place, entry in entries.items() if entry.learning]
        if not who:
            return
        joint = self.settled(who)
        topics = [entries[place].topic for place in who]
        one = np.arange(len(who))
        self.rows[who, topics] = learned_rows(
            self.rows[who, topics],
            joint.cavity_precision[one, topics],
            joint.cavity_shift[one, topics],
            settings,
        )

    def state(self, place: int) -> LearnerState:
        """One learner's state."""
        return LearnerState(self.rows[place].copy(), self.sites[place].copy())


def advance(
    prior: Prior, state: LearnerState, entry: Entry, settings: ChangeSettings
) -> tuple[Posterior, LearnerState]:
    """Posterior and state after one try: time first, then evidence, then learning."""
    batch = _Histories(prior, [state])
    batch.age({0: entry}, settings)
    batch.weigh({0: entry})
    batch.learn({0: entry}, settings)
    joint = batch.settled([0])
    return posterior_of(joint, batch.rows[0]), batch.state(0)


def rebuild(
    prior: Prior,
    histories: Sequence[Sequence[Entry]],
    settings: ChangeSettings,
    progress: Callable[[int], None] = lambda _: None,
) -> list[LearnerState]:
    """States of learners from all their entries in order.

    progress: called with the number of learners done. Time is linear in the number of entries.
    Everything is done in the same order as by `advance`, so that both end at the same state to
    the last few bits, however loosely the sweeps settle.
    """
    order = sorted(range(len(histories)), key=lambda i: -len(histories[i]))
    states: dict[int, LearnerState] = {}
    for start in range(0, len(order), BATCH):
        block = order[start : start + BATCH]
        batch = _Histories(prior, [LearnerState.empty(prior.size)] * len(block))
        for turn in range(len(histories[block[0]])):
            entries = {
                place: histories[learner][turn]
                for place, learner in enumerate(block)
                if turn < len(histories[learner])
            }
            batch.age(entries, settings)
            batch.weigh(entries)
            batch.learn(entries, settings)
            batch.settled(list(entries))
        states |= {learner: batch.state(place) for place, learner in enumerate(block)}
        progress(len(block))
    return [states[i] for i in range(len(histories))]


def largest_difference(prior: Prior, one: LearnerState, other: LearnerState) -> float:
    """Greatest difference between two states in mean or sd of any topic, logits."""
    first, second = (infer(prior, state)[0] for state in (one, other))
    gaps = (first.mean - second.mean, first.sd - second.sd)
    return float(max(np.abs(gap).max() for gap in gaps))
