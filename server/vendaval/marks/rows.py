"""A learner's row of a mark book: cells, the mark so far, what it can still become."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from vendaval.groups.models import Enrolment
from vendaval_core.assessment.mark_book import Book, CellState, Entry, Worked, possible, worked_out
from vendaval_core.assessment.points import band_of
from vendaval_core.assessment.scale import Scale

from .cells import Cells
from .columns_of_term import Column
from .schemas import MarkCellOut, MarkRowOut


@dataclass(frozen=True, slots=True)
class Row:
    """One learner's. worked: by what is released."""

    enrolment: Enrolment
    cells: Cells
    entries: dict[str, Entry]
    worked: Worked


def row_of(enrolment: Enrolment, cells: Cells, book: Book) -> Row:
    """Put a row together."""
    entries = {key: cell.entry for key, cell in cells.items()}
    return Row(enrolment, cells, entries, worked_out(book, entries))


def row_out(
    row: Row,
    columns: Sequence[Column],
    book: Book,
    scale: Scale,
    *,
    staff: bool,
) -> MarkRowOut:
    """A row as a browser gets it. staff: whether it has marks that aren't released."""
    share = row.worked.share
    mark = None if share is None else scale.mark(share)
    range_ = possible(book, row.entries)
    return MarkRowOut(
        learner=row.enrolment.pk,
        name=row.enrolment.person.display_name,
        cells=[cell_out(row, column, scale, staff=staff) for column in columns],
        mark=number(mark),
        exact=None if share is None else number(scale.exact(share)),
        **standing_out(mark, scale),
        low=None if range_ is None else number(scale.mark(range_[0])),
        high=None if range_ is None else number(scale.mark(range_[1])),
        fixed=None,
    )


def standing_out(mark: Fraction | None, scale: Scale) -> dict[str, Any]:
    """The mark that stands, its band, and whether it is below the pass mark."""
    return {
        "stands": number(mark),
        "band": "" if mark is None or not scale.bands else band_of(scale.bands, mark),
        "below": scale.pass_mark is not None and mark is not None and mark < scale.pass_mark,
    }


def cell_out(row: Row, column: Column, scale: Scale, *, staff: bool) -> MarkCellOut:
    """A cell as a browser gets it."""
    cell = row.cells[column.key]
    shown = cell.entry.share if cell.entry.standing is CellState.MARKED else None
    return MarkCellOut(
        standing=cell.entry.standing,
        mark=None if shown is None else number(scale.exact(shown)),
        held=number(scale.exact(cell.held)) if staff and cell.held is not None else None,
        late=cell.late,
        dropped=column.key in row.worked.dropped,
        entered=cell.entered is not None,
        counts=column.counts,
    )


def number(value: Fraction | None) -> float | None:
    """A mark as browsers get it."""
    return None if value is None else round(float(value), 9)
