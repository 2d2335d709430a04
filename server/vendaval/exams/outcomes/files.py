"""Everybody's results of a test as files."""

from __future__ import annotations

from typing import Any

from django.utils.translation import gettext

from vendaval.shared.tables import FileKind, Table, as_csv, as_xlsx

from .schemas import OutcomeCellOut, OutcomesOut, SatOut

FACTS = ("learner", "state", "attempt", "points", "of", "per_cent", "mark", "band", "minutes")
WIDE = {"learner": 26}


def outcomes_file(found: OutcomesOut, kind: FileKind) -> bytes:
    """A line for each learner, with the points of each question; a workbook has the shares of the
    points on a second sheet."""
    head = tuple(f"{n}. {column.title}" for n, column in enumerate(found.columns, 1))
    points = Table(
        gettext("Points"),
        FACTS + head,
        [_facts(one) + tuple(_points(cell) for cell in one.cells) for one in found.learners],
        WIDE,
    )
    if kind == "csv":
        return as_csv(points)
    shares = Table(
        gettext("Shares"),
        ("learner", *head),
        [(one.name, *(_share(cell) for cell in one.cells)) for one in found.learners],
        WIDE,
    )
    return as_xlsx((points, shares))


def _facts(one: SatOut) -> tuple[Any, ...]:
    kept = next((attempt.number for attempt in one.attempts if attempt.kept), None)
    return (
        one.name,
        one.state.replace("_", " "),
        kept,
        one.points,
        one.out_of,
        one.per_cent,
        one.scaled,
        one.band,
        one.minutes,
    )


def _points(cell: OutcomeCellOut | None) -> Any:
    return "" if cell is None else cell.points if cell.points is not None else cell.result


def _share(cell: OutcomeCellOut | None) -> float | None:
    return None if cell is None else cell.share
