"""What tries came to by the marks in force, one by one and as a filter."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from django.db.models import Exists, OuterRef, QuerySet

from vendaval.bank.snapshot import version_of
from vendaval.work.models import Mark, Try, TryKind
from vendaval.work.questions import newest_marks
from vendaval_core.items.versions import Version

from .schemas import Result

MOST_WAITING = 500


def result_of(row: Try, marks: Mapping[str, Mark], version: Version) -> tuple[Result, float]:
    """What a try came to by the marks that count, and its mean share. What earns no points where
    a rule marks another part is left out; one part that is still to be marked makes it wait."""
    if row.kind == TryKind.NOT_TAUGHT:
        return "not_taught", 0.0
    scored = {key.id for key in version.parts if key.units} or {key.id for key in version.parts}
    shares = [mark.share for part, mark in marks.items() if part in scored]
    if not all(shares) or not shares:
        return "waiting", 0.0
    mean = sum(map(Fraction, shares), Fraction(0)) / len(shares)
    return ("right" if mean == 1 else "partly" if mean else "wrong"), float(mean)


def with_result(rows: QuerySet[Try], result: Result) -> QuerySet[Try]:
    """The tries that came to a result."""
    if result == "not_taught":
        return rows.filter(kind=TryKind.NOT_TAUGHT)
    rows = rows.exclude(kind=TryKind.NOT_TAUGHT)
    waiting = _waiting(rows)
    if result == "waiting":
        return rows.filter(pk__in=waiting)
    given = _in_force().exclude(share="")
    short, some = Exists(given.exclude(share="1")), Exists(given.exclude(share="0"))
    wanted = {"right": ~short, "wrong": ~some, "partly": short & some}[result]
    return rows.exclude(pk__in=waiting).filter(wanted)


def _in_force() -> QuerySet[Mark]:
    """Marks of a try, for a query over tries, in the place of which no other stands."""
    later = Mark.objects.filter(replaces=OuterRef("pk"))
    return Mark.objects.filter(~Exists(later), tried=OuterRef("pk"))


def _waiting(rows: QuerySet[Try]) -> list[int]:
    """The tries of which something is still to be marked, of the latest that have such a part."""
    some = rows.filter(Exists(_in_force().filter(share="")))
    found = list(
        some.select_related("presentation__revision__family__topic").order_by("-at")[:MOST_WAITING]
    )
    marks = newest_marks(list(Mark.objects.filter(tried__in=found).order_by("pk")))
    return [
        row.pk
        for row in found
        if result_of(row, marks.get(row.pk, {}), shown_version(row))[0] == "waiting"
    ]


def shown_version(row: Try) -> Version:
    """The version that was answered."""
    shown = row.presentation
    return version_of(shown.revision, shown.seed, shown.order)
