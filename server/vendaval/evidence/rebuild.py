"""Learners' states made again from the try log alone."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence

from vendaval.bank.snapshot import CourseBank
from vendaval.people.models import User
from vendaval_core.measure.journal import Entry, rebuild
from vendaval_core.measure.posterior import LearnerState
from vendaval_core.measure.response import NOT_TAUGHT

from .models import Try, TryKind
from .settings import CHANGE

FIELDS = (
    "pk",
    "learner_id",
    "family_id",
    "kind",
    "first",
    "outcome",
    "outcomes",
    "weight",
    "days",
    "learning",
    "takes_back_id",
)


def _entries(rows: Sequence[Try], bank: CourseBank) -> Iterator[Entry]:
    """What each stored try says, in order. A try that was taken back keeps only its time.

    A family that has another number of outcomes now keeps the share that an outcome stood for.
    """
    undone = {row.takes_back_id for row in rows if row.kind == TryKind.TAKEN_BACK}
    for row in rows:
        if row.kind == TryKind.TAKEN_BACK or not (row.first or row.days > 0):
            continue
        family = bank.past[row.family_id]
        counts = row.first and row.pk not in undone
        top = family.curve.categories - 1
        outcome = round(top * (row.outcome or 0) / (row.outcomes - 1))
        yield Entry(
            family.topic,
            family.curve,
            NOT_TAUGHT if row.kind == TryKind.NOT_TAUGHT else outcome,
            row.weight if counts else 0.0,
            row.days,
            row.learning and counts,
        )


def histories(learners: Iterable[int], bank: CourseBank) -> dict[int, list[Entry]]:
    """What the log says of learners, by their ids, in one query."""
    wanted = list(learners)
    rows = Try.objects.filter(
        learner_id__in=wanted, presentation__run__course_id=bank.course_id
    ).order_by("pk")
    found: dict[int, list[Try]] = defaultdict(list)
    for row in rows.only(*FIELDS):
        found[row.learner_id].append(row)
    return {learner: list(_entries(found[learner], bank)) for learner in wanted}


def rebuilt_state(learner: User, bank: CourseBank) -> LearnerState:
    """The state that a learner's log gives."""
    return rebuild(bank.prior, [histories([learner.pk], bank)[learner.pk]], CHANGE)[0]
