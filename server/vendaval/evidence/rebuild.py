"""A learner's state made again from the try log alone."""

from __future__ import annotations

from collections.abc import Iterator

from vendaval.bank.snapshot import CourseBank
from vendaval.people.models import User
from vendaval_core.measure.journal import Entry, rebuild
from vendaval_core.measure.posterior import LearnerState
from vendaval_core.measure.response import NOT_TAUGHT

from .models import Try, TryKind
from .settings import CHANGE


def entries(learner: User, bank: CourseBank) -> Iterator[Entry]:
    """What each stored try says, in order. A try that was taken back keeps only its time."""
    by_id = {item.id: item for item in bank.families.values()}
    rows = list(
        Try.objects.filter(learner=learner, presentation__run__course_id=bank.course_id).order_by(
            "pk"
        )
    )
    undone = {row.takes_back_id for row in rows if row.kind == TryKind.TAKEN_BACK}
    for row in rows:
        item = by_id.get(row.family_id)
        if item is None or row.kind == TryKind.TAKEN_BACK or not (row.first or row.days > 0):
            continue
        counts = row.first and row.pk not in undone
        yield Entry(
            item.topic,
            item.curve,
            NOT_TAUGHT if row.kind == TryKind.NOT_TAUGHT else row.outcome or 0,
            row.weight if counts else 0.0,
            row.days,
            row.learning and counts,
        )


def rebuilt_state(learner: User, bank: CourseBank) -> LearnerState:
    """The state that a learner's log gives."""
    return rebuild(bank.prior, entries(learner, bank), CHANGE)
