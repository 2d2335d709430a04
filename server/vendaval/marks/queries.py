"""Mark books as those who teach, learn and read along see them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import median_high

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.shared import clock
from vendaval.shared.editing import edit_version
from vendaval.shared.errors import NotFound
from vendaval_core.assessment.mark_book import Book, CellState, outlook
from vendaval_core.assessment.mark_words import outlook_words, sum_words
from vendaval_core.assessment.points import shown
from vendaval_core.assessment.scale import Scale
from vendaval_core.words import are

from .cells import cells_of, closed_cells
from .columns_of_term import Column, Columns, columns_of
from .fixed import fixed_column_out, fixed_parts, fixed_row_out
from .models import Correction, Entered, EnteredKind, Term, TermMark
from .rows import Row, cell_out, number, row_of, row_out
from .schemas import (
    CategoryOut,
    ColumnOut,
    CorrectionOut,
    EnteredOut,
    MarkBookOut,
    MarkRowOut,
    OwnMarksOut,
    PartOut,
    RowDetailOut,
    TermEdit,
    TermOut,
    TermsOut,
    WorkMarkOut,
)

MOST_TERMS, MOST_ENTERED, AHEAD = 12, 50, 3


@dataclass(frozen=True, slots=True)
class Opened:
    """A term with its work and the rows of some of its group."""

    term: Term
    columns: Columns
    book: Book
    scale: Scale
    rows: Sequence[Row]


def terms(group: Group) -> TermsOut:
    """Terms of a group, the latest first."""
    rows = Term.objects.filter(group=group).order_by("-begins", "-pk")[:MOST_TERMS]
    return TermsOut(group=group.title, terms=[term_out(one) for one in rows])


def term_out(term: Term) -> TermOut:
    """A term in short."""
    return TermOut(
        id=term.pk, title=term.title, begins=term.begins, ends=term.ends, closed=term.closed_at
    )


def term_of(group: Group, term_id: int) -> Term:
    """A term of a group, or NotFound."""
    found = Term.objects.filter(group=group, pk=term_id).select_related("closed_by").first()
    if found is None:
        raise NotFound(gettext("This group doesn’t have this term."))
    found.group = group
    return found


def term_edit(term: Term) -> TermEdit:
    """What of a term can be edited."""
    return TermEdit(title=term.title, begins=term.begins, ends=term.ends, book=term.book)


def learners_of(group: Group) -> list[Enrolment]:
    """Who has marks in a group: its learners, without practice learners."""
    rows = members_of(group).filter(person__practice_for=None)
    return list(rows.defer("state__state", "state__families"))


def opened(
    term: Term, members: Sequence[Enrolment], now: datetime, *, over: bool = False
) -> Opened:
    """A term with the rows of these learners. over: what is open is missing from now on."""
    columns = columns_of(term)
    cells = cells_of(term, columns, members, now)
    if over:
        cells = {pk: closed_cells(own) for pk, own in cells.items()}
    book = term.book.core(columns.keys())
    rows = [row_of(one, cells[one.pk], book) for one in members]
    return Opened(term, columns, book, term.book.scale(), rows)


def mark_book(term: Term) -> MarkBookOut:
    """Everybody's marks in a term, for whoever teaches the group."""
    if term.closed_at is not None:
        return _closed_book(term)
    found = opened(term, learners_of(term.group), clock.now())
    every = found.columns.all()
    rows = [row_out(row, every, found.book, found.scale, staff=True) for row in found.rows]
    return _book_out(term, [_column_out(one) for one in every], rows)


def _closed_book(term: Term) -> MarkBookOut:
    """A closed term as it was fixed, beside what the work comes to now."""
    now = opened(term, learners_of(term.group), clock.now(), over=True)
    live = {row.enrolment.pk: row.worked.share for row in now.rows}
    rows = TermMark.objects.filter(term=term).select_related("enrolment__person")
    fixed = rows.order_by("enrolment__person__display_name").prefetch_related("corrections")
    found = [fixed_row_out(one, term.columns, now.scale, live) for one in fixed]
    return _book_out(term, [fixed_column_out(one) for one in term.columns], found)


def _book_out(term: Term, columns: Sequence[ColumnOut], rows: Sequence[MarkRowOut]) -> MarkBookOut:
    edit, scale = term_edit(term), term.book.scale()
    return MarkBookOut(
        group=term.group.title,
        term=term_out(term),
        closed_by="" if term.closed_by is None else term.closed_by.display_name,
        headline=_headline(rows, scale),
        most=term.book.most,
        pass_mark=number(scale.pass_mark),
        bands=[f"{band.name} ({shown(band.least)})" for band in scale.bands],
        categories=[
            CategoryOut(key=one.key, title=one.title, weight=float(one.weight), drop=one.drop)
            for one in term.book.categories
        ],
        columns=list(columns),
        learners=list(rows),
        edit=edit,
        version=edit_version(edit),
    )


def _headline(rows: Sequence[MarkRowOut], scale: Scale) -> str:
    marks = [mark for one in rows if (mark := one.stands) is not None]
    if not marks:
        return gettext("No marks yet.")
    middle = gettext("The middle mark is {mark}").format(mark=f"{median_high(marks):g}")
    if scale.pass_mark is None:
        return f"{middle}."
    below = sum(mark < scale.pass_mark for mark in marks)
    return gettext("{middle}, {below} below {pass_mark}.").format(
        middle=middle, below=are(below), pass_mark=shown(scale.pass_mark)
    )


def _column_out(column: Column) -> ColumnOut:
    return ColumnOut(
        key=column.key,
        title=column.title,
        kind=column.kind,
        category=column.category,
        on=column.on,
        counts=column.counts,
        test=None if column.assignment is None else column.assignment.pk,
        task=None if column.task is None else column.task.pk,
        of=None if column.outside is None else float(column.outside.of),
        shown=column.outside is None or column.outside.shown,
        never_told=column.never_told,
    )


def row_detail(term: Term, enrolment: Enrolment, *, staff: bool) -> RowDetailOut:
    """How one learner's mark was worked out. staff: for those who mark."""
    if term.closed_at is not None:
        return _closed_detail(term, enrolment, staff=staff)
    found = opened(term, [enrolment], clock.now())
    row, every = found.rows[0], found.columns.all()
    titles = {one.key: one.title for one in term.book.categories}
    return RowDetailOut(
        term=term_out(term),
        group=term.group.title,
        name=enrolment.person.display_name,
        most=term.book.most,
        row=row_out(row, every, found.book, found.scale, staff=staff),
        sum=sum_words(row.worked, found.scale, titles),
        parts=_parts(found, row, staff=staff),
        outlook=_outlook(found, row),
        corrections=[],
        entered=_entered(term, enrolment, {one.key: one.title for one in every}) if staff else [],
    )


def _closed_detail(term: Term, enrolment: Enrolment, *, staff: bool) -> RowDetailOut:
    rows = TermMark.objects.filter(term=term, enrolment=enrolment)
    fixed = rows.select_related("enrolment__person").prefetch_related("corrections__by").first()
    if fixed is None:
        raise NotFound(gettext("There’s no mark for this term."))
    titles = {one.key: one.title for one in term.columns}
    corrections = sorted(fixed.corrections.all(), key=lambda one: one.pk)
    return RowDetailOut(
        term=term_out(term),
        group=term.group.title,
        name=enrolment.person.display_name,
        most=term.book.most,
        row=fixed_row_out(fixed, term.columns, term.book.scale(), {}),
        sum=fixed.data.sum,
        parts=fixed_parts(fixed, term),
        outlook=[],
        corrections=[_correction_out(one) for one in corrections],
        entered=_entered(term, enrolment, titles) if staff else [],
    )


def _parts(found: Opened, row: Row, *, staff: bool) -> list[PartOut]:
    by_key = {part.category: part for part in row.worked.parts}

    def works(columns: Sequence[Column]) -> list[WorkMarkOut]:
        return [
            WorkMarkOut(
                column=one.key,
                title=one.title,
                cell=cell_out(row, one, found.scale, staff=staff),
                why=_why(row, one, staff=staff),
            )
            for one in columns
            if row.entries[one.key].standing is not CellState.NOT_GIVEN
        ]

    parts = []
    for category in found.term.book.categories:
        mean = by_key[category.key].mean
        parts.append(
            PartOut(
                key=category.key,
                title=category.title,
                weight=float(category.weight),
                mean=None if mean is None else number(found.scale.exact(mean)),
                works=works(found.columns.counting[category.key]),
            )
        )
    aside = works(found.columns.aside)
    if aside:
        title = gettext("Doesn’t count")
        parts.append(PartOut(key=None, title=title, weight=0, mean=None, works=aside))
    return parts


def _why(row: Row, column: Column, *, staff: bool) -> str:
    """The reason a tutor gave, which a learner reads once the mark is theirs to see."""
    cell = row.cells[column.key]
    if cell.entered is None or (cell.entry.standing is CellState.HELD and not staff):
        return ""
    return cell.entered.why


def _outlook(found: Opened, row: Row) -> list[str]:
    """What the next work can change, the soonest first."""
    counting = [one for own in found.columns.counting.values() for one in own]
    ahead = [one for one in counting if row.entries[one.key].standing is CellState.OPEN]
    ahead.sort(key=lambda one: one.on or found.term.ends)
    lines = []
    for column in ahead[:AHEAD]:
        what = outlook(found.book, row.entries, column.key, found.scale)
        if what is not None:
            lines.append(outlook_words(what, column.title, found.scale))
    return lines


def _correction_out(row: Correction) -> CorrectionOut:
    by = "" if row.by is None else row.by.display_name
    return CorrectionOut(mark=round(float(row.mark), 2), why=row.why, by=by, at=row.at)


def _entered(term: Term, enrolment: Enrolment, titles: Mapping[str, str]) -> list[EnteredOut]:
    rows = Entered.objects.filter(term=term, enrolment=enrolment).select_related("by")
    scale = term.book.scale()
    return [
        EnteredOut(
            column=one.work,
            title=titles.get(one.work, one.work),
            kind=EnteredKind(one.kind),
            mark=None if one.share is None else number(scale.exact(one.share)),
            why=one.why,
            by="" if one.by is None else one.by.display_name,
            at=one.at,
        )
        for one in rows.order_by("-pk")[:MOST_ENTERED]
    ]


def is_told(row: Entered) -> bool:
    """Whether the learner may see what was entered: not while the mark of its work is held."""
    found = opened(row.term, [row.enrolment], clock.now())
    cell = found.rows[0].cells.get(row.work)
    return cell is not None and cell.entry.standing is not CellState.HELD


def own_marks(enrolment: Enrolment) -> OwnMarksOut:
    """A learner's own row of each term of their groups; for them and for whoever reads along."""
    rows = Term.objects.filter(
        group__members__enrolment=enrolment, group__members__until=None
    ).select_related("group__course")
    found = rows.distinct().order_by("-begins", "-pk")[:MOST_TERMS]
    fixed = set(TermMark.objects.filter(enrolment=enrolment).values_list("term", flat=True))
    mine = [one for one in found if one.closed_at is None or one.pk in fixed]
    return OwnMarksOut(terms=[row_detail(one, enrolment, staff=False) for one in mine])
