"""Closing a term: its marks are fixed then, and a later change is a correction beside them."""

from __future__ import annotations

from django.db import transaction
from django.utils.translation import gettext

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval_core.assessment.mark_book import CellState, MissingWork
from vendaval_core.assessment.mark_words import sum_words

from .columns import FixedCell, FixedColumn, FixedData
from .fixed import standing_mark
from .models import Correction, Term, TermMark
from .queries import Opened, learners_of, opened
from .rows import Row
from .schemas import ClosingOut, CorrectionIn, StillOpenOut

MOST_LINES = 40


def closing(term: Term) -> ClosingOut:
    """What closing a term would mean. Nothing is stored."""
    found = opened(term, learners_of(term.group), clock.now())
    zero = term.book.missing is MissingWork.ZERO
    return ClosingOut(
        learners=len(found.rows),
        undecided=_cells(found, {CellState.WAITING, CellState.HELD})[:MOST_LINES],
        open=_cells(found, {CellState.OPEN})[:MOST_LINES],
        missing_says=gettext("Missing work counts as 0.")
        if zero
        else gettext("Missing work counts for nothing."),
    )


def _cells(found: Opened, wanted: set[CellState]) -> list[StillOpenOut]:
    return [
        StillOpenOut(
            learner=row.enrolment.person.display_name,
            title=column.title,
            standing=row.entries[column.key].standing,
        )
        for row in found.rows
        for own in found.columns.counting.values()
        for column in own
        if row.entries[column.key].standing in wanted
    ]


def close_term(term: Term, by: User) -> None:
    """Fix the marks of a term. Conflict while a mark waits or isn't released: a learner would see
    in the fixed mark what isn't told yet. Work that is still open is missing from now on."""
    now = clock.now()
    with transaction.atomic():
        locked = Term.objects.select_for_update().get(pk=term.pk)
        if locked.closed_at is not None:
            return
        term.book = locked.book
        found = opened(term, learners_of(term.group), now, over=True)
        if waiting := _cells(found, {CellState.WAITING, CellState.HELD}):
            raise Conflict(
                gettext("{count} marks are waiting or not released: {learner}, {title}.").format(
                    count=len(waiting), learner=waiting[0].learner, title=waiting[0].title
                ),
                code="marks_wait",
            )
        TermMark.objects.bulk_create(
            TermMark(term=term, enrolment=row.enrolment, data=_fixed(found, row))
            for row in found.rows
        )
        term.columns = [
            FixedColumn(
                key=one.key,
                title=one.title,
                kind=one.kind,
                category=one.category,
                counts=one.counts,
            )
            for one in found.columns.all()
        ]
        term.closed_at, term.closed_by = now, by
        term.save(update_fields=["columns", "closed_at", "closed_by"])


def _fixed(found: Opened, row: Row) -> FixedData:
    share, scale = row.worked.share, found.scale
    titles = {one.key: one.title for one in found.term.book.categories}
    return FixedData(
        mark=None if share is None else scale.mark(share),
        exact=None if share is None else scale.exact(share),
        sum=sum_words(row.worked, scale, titles),
        cells=[
            FixedCell(
                column=column.key,
                standing=row.entries[column.key].standing,
                mark=None if (own := row.entries[column.key].share) is None else scale.exact(own),
                late=row.cells[column.key].late,
                dropped=column.key in row.worked.dropped,
            )
            for column in found.columns.all()
        ],
    )


def correct(term: Term, wanted: CorrectionIn, by: User) -> None:
    """Put another mark in the place of a fixed one, which stays beside it."""
    scale = term.book.scale()
    if term.closed_at is None:
        raise Conflict(gettext("This term isn’t closed yet."), code="term_open")
    if not 0 <= wanted.mark <= scale.most or (wanted.mark / scale.step).denominator != 1:
        says = gettext("Choose a mark of the scale, from 0 to {most}.").format(most=scale.most)
        raise Unprocessable(says, fields={"mark": says})
    with transaction.atomic():
        rows = TermMark.objects.select_for_update().filter(term=term, enrolment=wanted.learner)
        fixed = rows.prefetch_related("corrections").first()
        if fixed is None:
            raise NotFound(gettext("This learner has no mark in this term."))
        if standing_mark(fixed) != wanted.mark:
            Correction.objects.create(
                mark_of=fixed, mark=wanted.mark, why=wanted.why.strip(), by=by, at=clock.now()
            )
