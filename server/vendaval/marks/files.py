"""A mark book as a file: a workbook whose marks are formulas over its cells, or plain values."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.utils.translation import gettext, gettext_noop
from openpyxl.utils import get_column_letter

from vendaval.shared.tables import FileKind, Formula, Table, as_csv, as_xlsx
from vendaval_core.assessment.mark_book import CellState, MissingWork

from .models import Term
from .queries import mark_book
from .schemas import CategoryOut, MarkBookOut, MarkCellOut, MarkRowOut

LEARNER, FIRST = "learner", 2
WEIGHTS_ROW, FIRST_ROW = 2, 3
SAID = {
    CellState.OPEN: "",
    CellState.WAITING: gettext_noop("waiting for marks"),
    CellState.HELD: gettext_noop("not released"),
    CellState.MISSING: gettext_noop("missing"),
    CellState.EXCUSED: gettext_noop("excused"),
    CellState.NOT_GIVEN: "",
}


def marks_file(term: Term, kind: FileKind) -> bytes:
    """A line for each learner. A closed term's marks are as they were fixed, not formulas."""
    found = mark_book(term)
    zero = term.book.missing is MissingWork.ZERO
    head = (LEARNER, *(one.title for one in found.columns), "mark", "band")
    rows = [_plain(one, zero=zero) for one in found.learners]
    if kind == "csv":
        return as_csv(Table(found.term.title, head, rows))
    if found.term.closed is not None:
        return as_xlsx([_sheet(found, head, rows)])
    return as_xlsx([_with_formulas(found, term, zero=zero), _settings(found)])


def _sheet(found: MarkBookOut, head: tuple[str, ...], rows: Sequence[tuple[Any, ...]]) -> Table:
    return Table(_title(found), head, rows, {LEARNER: 26})


def _title(found: MarkBookOut) -> str:
    """The name of a sheet, without the characters that it can't have."""
    kept = "".join(one for one in found.term.title if one not in "[]:*?/\\'")
    return kept[:31] or gettext("Marks")


def _plain(one: MarkRowOut, *, zero: bool) -> tuple[Any, ...]:
    cells = (_value(cell, zero=zero) for cell in one.cells)
    return (one.name, *cells, one.stands, one.band)


def _value(cell: MarkCellOut, *, zero: bool) -> Any:
    if cell.standing is CellState.MISSING and zero:
        return 0
    if cell.mark is not None:
        return cell.mark
    return gettext(SAID[cell.standing]) if SAID[cell.standing] else ""


def _with_formulas(found: MarkBookOut, term: Term, *, zero: bool) -> Table:
    """Each category's mean is a formula over its work, and the mark one over the means, with the
    weights above them."""
    counting = {one.key: i for i, one in enumerate(found.categories)}
    means_at = FIRST + len(found.columns)
    blank = [""] * len(found.columns)
    weights: list[Any] = [gettext("weight"), *blank, *(one.weight for one in found.categories)]
    rows: list[tuple[Any, ...]] = [tuple(weights)]
    for number, one in enumerate(found.learners, FIRST_ROW):
        values = [_value(cell, zero=zero) for cell in one.cells]
        means = [_mean(found, category, number) for category in found.categories]
        mark = _mark(means_at, len(counting), number, float(term.book.step))
        rows.append((one.name, *values, *means, mark, one.band))
    head = (
        LEARNER,
        *(one.title for one in found.columns),
        *(gettext("{title}, mean").format(title=one.title) for one in found.categories),
        "mark",
        "band",
    )
    return _sheet(found, head, rows)


def _mean(found: MarkBookOut, category: CategoryOut, row: int) -> Formula:
    """The mean of a category's marks without its lowest ones; empty before there are any. Its
    columns stand beside each other."""
    at = [i for i, one in enumerate(found.columns, FIRST) if one.category == category.key]
    if not at:
        return Formula('""')
    cells = f"{get_column_letter(at[0])}{row}:{get_column_letter(at[-1])}{row}"
    total, count = f"SUM({cells})", f"COUNT({cells})"
    for place in range(1, category.drop + 1):
        total += f"-IF({count}>{place},SMALL({cells},{place}),0)"
    kept = f"MAX(1,{count}-{category.drop})" if category.drop else count
    return Formula(f'IF({count}=0,"",({total})/{kept})')


def _mark(first: int, count: int, row: int, step: float) -> Formula:
    """The weighted mean, rounded to the scale's step; weights of empty categories don't count."""
    start, end = get_column_letter(first), get_column_letter(first + count - 1)
    means, weights = f"{start}{row}:{end}{row}", f"${start}${WEIGHTS_ROW}:${end}${WEIGHTS_ROW}"
    weight = f'SUMIF({means},">=0",{weights})'
    per = round(1 / step)
    mean = f"SUMPRODUCT({weights},{means})/{weight}"
    return Formula(f'IF({weight}=0,"",ROUND(ROUND({mean}*{per},6),0)/{per})')


def _settings(found: MarkBookOut) -> Table:
    """What the marks rest on, on a second sheet."""
    rows: list[tuple[Any, ...]] = [
        (gettext("group"), found.group),
        (gettext("out of"), found.most),
        (gettext("pass mark"), found.pass_mark),
        *((gettext("band"), one) for one in found.bands),
        *(
            (gettext("lowest left out in {title}").format(title=one.title), one.drop)
            for one in found.categories
        ),
    ]
    return Table(gettext("How it works"), ("what", "value"), rows, {"what": 40, "value": 30})
