"""Diagnostics as other pages ask for them."""

from __future__ import annotations

import random
from collections.abc import Sequence
from datetime import datetime

from vendaval.bank.snapshot import BankTopic
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs
from vendaval_core.mastery.diagnostic import plan_diagnostic
from vendaval_core.mastery.freshening import faded

from .run import DiagnosticNote


def freshening_under_way(enrolment: Enrolment) -> Run | None:
    """The freshening that was left, if any."""
    runs = open_runs(enrolment, Purpose.DIAGNOSTIC)
    return next((r for r in runs if isinstance(r.note, DiagnosticNote) and r.note.most), None)


def questions_ahead(learning: Learning, topics: Sequence[BankTopic]) -> tuple[int, tuple[int, int]]:
    """How many questions a diagnostic over these topics is expected to take if it began now, and
    the fewest and most: what its first page will say."""
    planned = plan_diagnostic(
        learning.bank.table,
        learning.posterior,
        learning.readings,
        learning.bank.scales,
        learning.importance,
        [topic.number for topic in topics],
        [learning.answers_in(topic.number) for topic in learning.bank.topics],
        [],
        random.Random(0),
        left_out=learning.families_in_test(),
    )
    return planned.questions_left, planned.range_left


def faded_topics(learning: Learning, now: datetime) -> list[BankTopic]:
    """Topics that were known and, with the time since, are less so."""
    numbers = faded(learning.readings_at(now), learning.readings)
    return [t for t in learning.bank.topics if t.number in numbers and learning.taught(t)]
