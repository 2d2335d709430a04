"""What work counts in a term: tests and set work of its group, and what comes from outside."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime

from django.utils import timezone

from vendaval.assigning.models import Task
from vendaval.exams.models import Assignment
from vendaval.groups.models import Enrolment, GivenToGroup
from vendaval_core.assessment.rules import When

from .columns import BookData, Counts, Kind, OutsideData
from .models import Term


@dataclass(frozen=True, slots=True)
class Column:
    """A piece of work in a mark book. on: the day it belongs to. learners: who has it, None for the
    whole group. never_told: learners never see its score, so it can't count."""

    key: str
    kind: Kind
    title: str
    on: date | None
    category: str | None
    counts: Counts = "mark"
    assignment: Assignment | None = None
    task: Task | None = None
    outside: OutsideData | None = None
    learners: frozenset[int] | None = None
    never_told: bool = False


@dataclass(frozen=True, slots=True)
class Columns:
    """Of a term. counting: by category, in the order of their dates. aside: what counts nowhere."""

    counting: dict[str, list[Column]] = field(default_factory=dict)
    aside: list[Column] = field(default_factory=list)

    def all(self) -> list[Column]:
        """Those that count first, category by category."""
        return [one for own in self.counting.values() for one in own] + self.aside

    def keys(self) -> dict[str, list[str]]:
        """Keys of each category's work."""
        return {key: [one.key for one in own] for key, own in self.counting.items()}


def columns_of(term: Term) -> Columns:
    """The work of a term: what falls between its dates, what a tutor put there, and what comes from
    outside. Four queries."""
    found = [*_tests(term), *_tasks(term)]
    for one in term.book.outside:
        category = _category(term.book, f"own-{one.key}", "outside")
        found.append(Column(f"own-{one.key}", "outside", one.title, one.on, category, outside=one))
    found.sort(key=lambda one: one.on or term.ends)
    result = Columns({category.key: [] for category in term.book.categories})
    for column in found:
        result.counting.get(column.category or "", result.aside).append(column)
    return result


def _tests(term: Term) -> list[Column]:
    rows = Assignment.objects.filter(group=term.group_id).select_related("test").order_by("pk")
    mine = [row for row in rows if row.test.counts and _is_in(term, f"test-{row.pk}", row)]
    learners = _learners(mine)
    found = []
    for row in mine:
        key, never = f"test-{row.pk}", row.test.rules.release.score is When.NEVER
        found.append(
            Column(
                key,
                "tests",
                row.test.title,
                _day(row),
                None if never else _category(term.book, key, "tests"),
                assignment=row,
                learners=learners.get(row.pk),
                never_told=never,
            )
        )
    return found


def _tasks(term: Term) -> list[Column]:
    rows = Task.objects.filter(group=term.group_id).order_by("pk")
    mine = [row for row in rows if _is_in(term, f"task-{row.pk}", row)]
    learners = _learners(mine)
    found = []
    for row in mine:
        key = f"task-{row.pk}"
        placed = term.book.placed.get(key)
        usual: Counts = "done" if row.asks.points is None else "mark"
        found.append(
            Column(
                key,
                "tasks",
                row.title,
                _day(row),
                _category(term.book, key, "tasks"),
                usual if placed is None else placed.counts,
                task=row,
                learners=learners.get(row.pk),
            )
        )
    return found


def _learners(rows: Sequence[GivenToGroup]) -> dict[int, frozenset[int]]:
    """Who has each piece of work that isn't the whole group's; one query, or none."""
    some = {row.pk for row in rows if not row.whole_group}
    if not some:
        return {}
    kind = type(rows[0])
    found: dict[int, set[int]] = {pk: set() for pk in some}
    having = Enrolment.objects.filter(groups__group=rows[0].group_id)
    through = kind.learners.through.objects.filter(enrolment__in=having)  # type: ignore[attr-defined]
    name = kind._meta.model_name
    for pk, learner in through.filter(**{f"{name}__in": some}).values_list(name, "enrolment"):
        found[pk].add(learner)
    return {pk: frozenset(own) for pk, own in found.items()}


def _day(row: GivenToGroup) -> date:
    at: datetime = row.due or row.closes or row.given_at
    return timezone.localtime(at).date()


def _is_in(term: Term, key: str, row: GivenToGroup) -> bool:
    return key in term.book.placed or term.begins <= _day(row) <= term.ends


def _category(book: BookData, key: str, kind: Kind) -> str | None:
    if (placed := book.placed.get(key)) is not None:
        return placed.category
    return next((one.key for one in book.categories if kind in one.takes), None)
