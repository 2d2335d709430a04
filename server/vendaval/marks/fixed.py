"""A closed term as it was fixed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from django.utils.translation import gettext

from vendaval_core.assessment.mark_book import CellState
from vendaval_core.assessment.scale import Scale

from .columns import FixedCell, FixedColumn
from .models import Term, TermMark
from .rows import number, standing_out
from .schemas import ColumnOut, FixedMarkOut, MarkCellOut, MarkRowOut, PartOut, WorkMarkOut


def standing_mark(fixed: TermMark) -> Fraction | None:
    """The mark that stands: the last correction, or as it was fixed. Corrections have to be
    prefetched."""
    newest = max(fixed.corrections.all(), key=lambda one: one.pk, default=None)
    return fixed.data.mark if newest is None else newest.mark


def fixed_row_out(
    fixed: TermMark,
    columns: Sequence[FixedColumn],
    scale: Scale,
    live: Mapping[int, Fraction | None],
) -> MarkRowOut:
    """A fixed row. live: shares by what the work comes to now, of those who are still there."""
    stands = standing_mark(fixed)
    share = live.get(fixed.enrolment_id)
    cells = {one.column: one for one in fixed.data.cells}
    return MarkRowOut(
        learner=fixed.enrolment_id,
        name=fixed.enrolment.person.display_name,
        cells=[_cell(cells[one.key], one) for one in columns],
        **standing_out(stands, scale),
        mark=number(stands if share is None else scale.mark(share)),
        exact=number(fixed.data.exact),
        low=None,
        high=None,
        fixed=FixedMarkOut(
            mark=number(fixed.data.mark),
            corrected=number(stands) if fixed.corrections.all() else None,
        ),
    )


def fixed_column_out(column: FixedColumn) -> ColumnOut:
    """A column of a closed term."""
    kind, _, pk = column.key.partition("-")
    return ColumnOut(
        key=column.key,
        title=column.title,
        kind=column.kind,
        category=column.category,
        on=None,
        counts=column.counts,
        test=int(pk) if kind == "test" else None,
        task=int(pk) if kind == "task" else None,
        of=None,
        shown=True,
        never_told=False,
    )


def fixed_parts(fixed: TermMark, term: Term) -> list[PartOut]:
    """Its work by category."""
    cells = {one.column: one for one in fixed.data.cells}
    titles = [(one.key, one.title, float(one.weight)) for one in term.book.categories]
    parts = []
    for key, title, weight in (*titles, (None, gettext("Doesn’t count"), 0.0)):
        works = [
            WorkMarkOut(column=one.key, title=one.title, cell=_cell(cells[one.key], one), why="")
            for one in term.columns
            if one.category == key and cells[one.key].standing is not CellState.NOT_GIVEN
        ]
        if works or key is not None:
            parts.append(PartOut(key=key, title=title, weight=weight, mean=None, works=works))
    return parts


def _cell(cell: FixedCell, column: FixedColumn) -> MarkCellOut:
    return MarkCellOut(
        standing=cell.standing,
        mark=number(cell.mark),
        held=None,
        late=cell.late,
        dropped=cell.dropped,
        entered=False,
        counts=column.counts,
    )
