"""A learner in a course at one moment, read once and handed to whoever looks at it."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import datetime

from vendaval.bank.snapshot import BankTopic
from vendaval.groups.models import Enrolment
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs
from vendaval_core.mastery.steps import TopicStanding

from .learning import Learning, learning_of
from .queries import past_levels, standings

MOST_RUNS = 30


@dataclass(frozen=True, slots=True)
class Snapshot:
    """What the steps of a page are made from.

    misses: open ones by topic id. runs: that can be taken up again, latest first. past: where each
    topic's needle stood before, by topic id.
    """

    learning: Learning
    now: datetime
    misses: Counter[int]
    standings: list[TopicStanding]
    runs: list[Run]
    past: dict[int, list[float]]

    @property
    def enrolment(self) -> Enrolment:
        """Whose it is."""
        return self.learning.enrolment

    def runs_of(self, purpose: Purpose) -> list[Run]:
        """Runs of one purpose that can be taken up again, latest first."""
        return [run for run in self.runs if run.purpose == purpose]

    def seconds_of(self, topics: list[BankTopic]) -> float:
        """Mean time that a question of these topics takes this learner."""
        return sum(self.learning.seconds(t.number) for t in topics) / max(1, len(topics))


def snapshot_of(enrolment: Enrolment, misses: Counter[int], now: datetime) -> Snapshot:
    """Read a learner. misses: open ones by topic id, which the app of misses counts."""
    learning = learning_of(enrolment)
    return Snapshot(
        learning,
        now,
        misses,
        standings(learning, misses),
        list(open_runs(enrolment)[:MOST_RUNS]),
        past_levels(enrolment),
    )
