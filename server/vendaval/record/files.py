"""The record as CSV and XLSX."""

from __future__ import annotations

from dataclasses import astuple
from typing import Any

from vendaval.groups.models import Enrolment
from vendaval.shared.tables import Table, as_csv, as_xlsx

from .queries import record
from .rows import COLUMNS, record_rows
from .schemas import RecordOut

WIDE = {"question": 36, "topic": 24, "answer": 40, "at": 18, "why_not": 26}


def record_csv(enrolment: Enrolment) -> bytes:
    """One line a try."""
    return as_csv(_tries(enrolment))


def record_xlsx(enrolment: Enrolment) -> bytes:
    """A workbook: tries, levels by week, targets and rechecks, speed and confidence."""
    found = record(enrolment)
    levels = ("topic", "week", "level", "low", "high", "target")
    speed = ("topic", "answers", "median_seconds", "seconds_needed", "right_per_cent")
    said = ("said_per_cent", "answers", "right_per_cent")
    fast = [(s.topic.title, s.answers, s.seconds, s.needed, s.right) for s in found.speed]
    steps = [(s.said, s.answers, s.right) for s in found.calibration.steps]
    return as_xlsx(
        (
            _tries(enrolment),
            Table("Levels", levels, _levels(found), WIDE),
            Table("Targets", ("topic", "on", "what"), _events(found), WIDE),
            Table("Speed", speed, fast, WIDE),
            Table("Confidence", said, steps, WIDE),
        )
    )


def _tries(enrolment: Enrolment) -> Table:
    return Table("Tries", COLUMNS, (astuple(row) for row, _ in record_rows(enrolment)), WIDE)


def _levels(found: RecordOut) -> list[tuple[Any, ...]]:
    return [
        (one.topic.title, w.on, w.reading.middle, w.reading.low, w.reading.high, w.reading.target)
        for one in found.topics
        for w in one.weeks
    ]


def _events(found: RecordOut) -> list[tuple[Any, ...]]:
    return [(one.topic.title, e.on, e.says) for one in found.topics for e in one.events]
