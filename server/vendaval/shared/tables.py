"""Tables as files that spreadsheets read: CSV and XLSX."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from io import BytesIO, StringIO
from typing import Any, Literal

from django.http import HttpResponse
from django.utils import timezone
from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from .plain_text import plain_text

USUAL_WIDTH = 14
FORMULA = ("=", "+", "@", "\t", "\r")
NUMBER = re.compile(r"-\d+([.,]\d+)?")
FileKind = Literal["xlsx", "csv"]
CONTENT: Mapping[str, str] = {
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "csv": "text/csv; charset=utf-8",
    "json": "application/json",
}


@dataclass(frozen=True, slots=True)
class Formula:
    """A formula of our own making, without its equals sign; text that somebody typed never is."""

    text: str


@dataclass(frozen=True, slots=True)
class Table:
    """Rows under a head of plain names. wide: widths of columns, in characters, by name. `at` is
    the name of a moment, whose zone a workbook says in the head."""

    title: str
    head: tuple[str, ...]
    rows: Iterable[tuple[Any, ...]]
    wide: Mapping[str, int] = field(default_factory=dict)


def as_csv(table: Table) -> bytes:
    """As UTF-8 with a byte order mark, so that spreadsheets read it as such."""
    out = StringIO()
    writer = csv.writer(out)
    writer.writerow(table.head)
    for row in table.rows:
        writer.writerow([_with_offset(value) for value in row])
    return out.getvalue().encode("utf-8-sig")


def as_xlsx(tables: Iterable[Table]) -> bytes:
    """A workbook with a sheet for each."""
    book = Workbook(write_only=True)
    for table in tables:
        _sheet(book, table)
    out = BytesIO()
    book.save(out)
    return out.getvalue()


def download(name: str, ending: str, content: bytes) -> HttpResponse:
    """A file to be saved."""
    disposition = f'attachment; filename="{name}.{ending}"'
    return HttpResponse(
        content, content_type=CONTENT[ending], headers={"Content-Disposition": disposition}
    )


def _harmless(value: Any) -> Any:
    """Text that a spreadsheet would take for a formula, as text."""
    if not isinstance(value, str):
        return value
    text = plain_text(value)
    minus = text.startswith("-") and NUMBER.fullmatch(text) is None
    return f"'{text}" if text.startswith(FORMULA) or minus else text


def _with_offset(value: Any) -> Any:
    """A plain value: a moment as ISO 8601 has it, in local time with its offset."""
    if isinstance(value, datetime):
        return timezone.localtime(value).isoformat(timespec="seconds")
    return _harmless(value)


def _cells(values: tuple[Any, ...]) -> list[Any]:
    """Plain values: moments as local time without a zone, which spreadsheets know none of."""
    return [
        timezone.localtime(value).replace(tzinfo=None, microsecond=0)
        if isinstance(value, datetime)
        else f"={value.text}"
        if isinstance(value, Formula)
        else _harmless(value)
        for value in values
    ]


def _sheet(book: Workbook, table: Table) -> None:
    sheet = book.create_sheet(table.title)
    sheet.freeze_panes = "A2"
    names = []
    for number, name in enumerate(table.head, start=1):
        sheet.column_dimensions[get_column_letter(number)].width = table.wide.get(name, USUAL_WIDTH)
        zone = f" ({timezone.get_current_timezone_name()})" if name == "at" else ""
        cell = WriteOnlyCell(sheet, value=name.replace("_", " ") + zone)
        cell.font = Font(bold=True)
        names.append(cell)
    sheet.append(names)
    for row in table.rows:
        sheet.append(_cells(row))
