"""What happened lately as statements, some rows at a time: for stores that they are sent to."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, field
from itertools import groupby

from django.db.models import Q, QuerySet

from vendaval.exams.models import Attempt
from vendaval.groups.models import Enrolment
from vendaval.levels.models import LevelRecord, TargetMet
from vendaval.work.models import HelpKind, HelpOpened, Mark, MarkRule, Run, Try

from .rows import rows_of
from .statements import Statement, Teller, counting_attempts


@dataclass(slots=True)
class Told:
    """Statements by the id of their row. waiting: rows of which nothing may be said yet. Of all
    others there is nothing to say any more: they were undone, or are no part of a record."""

    statements: dict[int, Statement] = field(default_factory=dict)
    waiting: set[int] = field(default_factory=set)


@dataclass(frozen=True, slots=True)
class Kind:
    """Something that is told. rows: all there are. path: from them to the enrolment. at: when it
    happened. tell: what is said of some of them, of one learner in one course."""

    rows: Callable[[], QuerySet]  # type: ignore[type-arg]
    path: str
    tell: Callable[[Teller, Enrolment, Collection[int]], Told]
    at: str = "at"


def _runs(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    rows = Run.objects.filter(pk__in=numbers)
    return Told({row.pk: teller.run(row) for row in rows})


def _tries(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    known = rows_of(enrolment, numbers)
    standing = set(Try.objects.filter(pk__in=numbers).standing().values_list("pk", flat=True))
    told = {number: teller.tried(row, tried) for number, (row, tried) in known.items()}
    return Told(told, standing - set(told))


def _marks(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    marks = Mark.objects.filter(pk__in=numbers).select_related(
        "tried__presentation__revision__family"
    )
    by_try = {mark.pk: mark for mark in marks}
    tries = _tries(teller, enrolment, {mark.tried_id for mark in by_try.values()})
    rows = rows_of(enrolment, set(tries.statements))
    found = Told()
    for number, mark in by_try.items():
        if mark.tried_id in tries.waiting:
            found.waiting.add(number)
        elif mark.tried_id in rows:
            row = rows[mark.tried_id][0]
            if row.result == "waiting":
                found.waiting.add(number)
            else:
                found.statements[number] = teller.scored(row, mark)
    return found


def _studied(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    rows = HelpOpened.objects.filter(pk__in=numbers)
    return Told({row.pk: teller.studied(row) for row in rows})


def _levels(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    rows = LevelRecord.objects.filter(pk__in=numbers).select_related("topic")
    return Told({row.pk: teller.level(row) for row in rows})


def _met(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    rows = TargetMet.objects.filter(pk__in=numbers).select_related("topic")
    return Told({row.pk: teller.met(row) for row in rows})


def _attempts(teller: Teller, enrolment: Enrolment, numbers: Collection[int]) -> Told:
    found = Told()
    for row in Attempt.objects.filter(pk__in=numbers).select_related("test", "enrolment"):
        told = teller.attempt(row)
        if told is None:
            found.waiting.add(row.pk)
        else:
            found.statements[row.pk] = told
    return found


KINDS: dict[str, Kind] = {
    "run": Kind(lambda: Run.objects.filter(rehearsal=False), "enrolment", _runs, "started_at"),
    "try": Kind(lambda: Try.objects.standing(), "enrolment", _tries),
    "mark": Kind(
        lambda: Mark.objects.filter(~Q(rule=MarkRule.KEY) | ~Q(replaces=None)),
        "tried__enrolment",
        _marks,
    ),
    "study": Kind(lambda: HelpOpened.objects.filter(kind=HelpKind.STUDY), "enrolment", _studied),
    "level": Kind(lambda: LevelRecord.objects.all(), "enrolment", _levels),
    "met": Kind(lambda: TargetMet.objects.all(), "enrolment", _met),
    "attempt": Kind(
        counting_attempts,
        "enrolment",
        _attempts,
        "confirmed_at",
    ),
}


def tell(asked: Iterable[tuple[str, int]]) -> dict[str, Told]:
    """Return what is said of rows, by kind. asked: kinds and ids."""
    by_kind: dict[str, list[int]] = defaultdict(list)
    for kind, number in asked:
        by_kind[kind].append(number)
    found = {}
    for kind, numbers in by_kind.items():
        found[kind] = _of_kind(KINDS[kind], numbers)
    return found


def _of_kind(kind: Kind, numbers: Collection[int]) -> Told:
    whole = Told()
    owners = kind.rows().filter(pk__in=numbers).order_by(kind.path, "pk")
    pairs = list(owners.values_list(kind.path, "pk"))
    people = Enrolment.objects.select_related("person", "course").in_bulk({one for one, _ in pairs})
    for owner, rows in groupby(pairs, key=lambda pair: pair[0]):
        enrolment = people[owner]
        told = kind.tell(Teller(enrolment), enrolment, [number for _, number in rows])
        whole.statements |= told.statements
        whole.waiting |= told.waiting
    return whole
