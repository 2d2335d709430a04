"""Learners' states made again from their observations alone."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence

from vendaval.bank.snapshot import CourseBank
from vendaval_core.measure.journal import Entry, rebuild
from vendaval_core.measure.posterior import LearnerState, Posterior, infer
from vendaval_core.measure.response import NOT_TAUGHT

from .models import Observation
from .settings import CHANGE

FIELDS = (
    "pk",
    "enrolment_id",
    "family_id",
    "outcome",
    "of",
    "counts",
    "weight",
    "days",
    "learning",
    "lapse",
    "replaces_id",
)


def latest(rows: Sequence[Observation]) -> list[Observation]:
    """Of observations in the order they were added, those that none replaces, each in the place
    of the first that it stands for."""
    place: dict[int, int] = {}
    found: list[Observation] = []
    for row in rows:
        if row.replaces_id is None:
            place[row.pk] = len(found)
            found.append(row)
        else:
            place[row.pk] = place[row.replaces_id]
            found[place[row.pk]] = row
    return found


def entry_of(row: Observation, bank: CourseBank) -> Entry:
    """What an observation says. One that was undone, or waits for its marks, keeps only its
    time.

    A family that has another number of outcomes now keeps the share that an outcome stood for.
    """
    family = bank.past[row.family_id]
    top = family.curve.categories - 1
    outcome = NOT_TAUGHT if row.outcome is None else round(top * row.outcome / (row.of - 1))
    weight = row.weight if row.counts else 0.0
    learning = row.learning and row.counts
    return Entry(family.topic, family.curve, outcome, weight, row.days, learning, row.lapse)


def _entries(rows: Sequence[Observation], bank: CourseBank) -> Iterator[Entry]:
    return (entry_of(row, bank) for row in latest(rows))


def histories(enrolments: Iterable[int], bank: CourseBank) -> dict[int, list[Entry]]:
    """What the observations of some enrolments say, by their ids, in one query."""
    wanted = list(enrolments)
    found: dict[int, list[Observation]] = defaultdict(list)
    rows = Observation.objects.filter(enrolment_id__in=wanted).order_by("pk").only(*FIELDS)
    for row in rows:
        found[row.enrolment_id].append(row)
    return {pk: list(_entries(found[pk], bank)) for pk in wanted}


def posterior_with(
    enrolment_id: int, bank: CourseBank, added: Sequence[Observation]
) -> tuple[Posterior, LearnerState]:
    """Return what a learner's observations give together with some that are not stored yet, in the
    order they will be stored."""
    stored = Observation.objects.filter(enrolment_id=enrolment_id).order_by("pk").only(*FIELDS)
    entries = list(_entries([*stored, *added], bank))
    return infer(bank.prior, rebuild(bank.prior, [entries], CHANGE)[0])


def rebuilt_state(enrolment_id: int, bank: CourseBank) -> LearnerState:
    """The state that a learner's observations give."""
    return rebuild(bank.prior, [histories([enrolment_id], bank)[enrolment_id]], CHANGE)[0]
