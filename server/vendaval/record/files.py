"""The record as CSV and XLSX."""

from __future__ import annotations

import csv
from dataclasses import astuple
from datetime import datetime
from io import BytesIO, StringIO
from typing import Any

from django.utils import timezone
from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Font

from vendaval.groups.models import Enrolment

from .queries import record
from .rows import COLUMNS, record_rows
from .schemas import RecordOut

WIDE = {"question": 36, "topic": 24, "answer": 40, "at": 18, "why_not": 26}
FORMULA = ("=", "+", "@", "\t", "\r")


def _harmless(value: Any) -> Any:
    """Text that a spreadsheet would take for a formula, as text."""
    if not isinstance(value, str):
        return value
    minus = value.startswith("-") and not value[1:2].isdigit()
    return f"'{value}" if value.startswith(FORMULA) or minus else value


def _cells(values: tuple[Any, ...]) -> list[Any]:
    """Plain values: moments as local time without a zone, which spreadsheets know none of."""
    return [
        timezone.localtime(value).replace(tzinfo=None, microsecond=0)
        if isinstance(value, datetime)
        else _harmless(value)
        for value in values
    ]


def record_csv(enrolment: Enrolment) -> bytes:
    """One line a try, as UTF-8 with a byte order mark, so that spreadsheets read it as such."""
    out = StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for row, _ in record_rows(enrolment):
        writer.writerow(_cells(astuple(row)))
    return out.getvalue().encode("utf-8-sig")


def record_xlsx(enrolment: Enrolment) -> bytes:
    """A workbook: tries, levels by week, targets and rechecks, speed and confidence."""
    book = Workbook(write_only=True)
    tries = (astuple(row) for row, _ in record_rows(enrolment))
    _sheet(book, "Tries", COLUMNS, tries)
    found = record(enrolment)
    _sheet(book, "Levels", ("topic", "week", "level", "low", "high", "target"), _levels(found))
    _sheet(book, "Targets", ("topic", "on", "what"), _events(found))
    speed = [(s.topic.title, s.answers, s.seconds, s.needed, s.right) for s in found.speed]
    head = ("topic", "answers", "median_seconds", "seconds_needed", "right_per_cent")
    _sheet(book, "Speed", head, speed)
    steps = [(s.said, s.answers, s.right) for s in found.calibration.steps]
    _sheet(book, "Confidence", ("said_per_cent", "answers", "right_per_cent"), steps)
    out = BytesIO()
    book.save(out)
    return out.getvalue()


def _levels(found: RecordOut) -> list[tuple[Any, ...]]:
    return [
        (one.topic.title, w.on, w.reading.middle, w.reading.low, w.reading.high, w.reading.target)
        for one in found.topics
        for w in one.weeks
    ]


def _events(found: RecordOut) -> list[tuple[Any, ...]]:
    return [(one.topic.title, e.on, e.says) for one in found.topics for e in one.events]


def _sheet(book: Workbook, title: str, head: tuple[str, ...], rows: Any) -> None:
    sheet = book.create_sheet(title)
    sheet.freeze_panes = "A2"
    for number, name in enumerate(head):
        sheet.column_dimensions[chr(ord("A") + number)].width = WIDE.get(name, 14)
    names = []
    for name in head:
        cell = WriteOnlyCell(sheet, value=name.replace("_", " "))
        cell.font = Font(bold=True)
        names.append(cell)
    sheet.append(names)
    for row in rows:
        sheet.append(_cells(tuple(row)))
