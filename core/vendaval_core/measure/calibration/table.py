"""Tables of responses: rows are persons, columns items, blanks are missing answers."""

from __future__ import annotations

import csv
import io
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from vendaval_core.language import gettext

from ...errors import TableInvalid

MISSING = -1
FEWEST_ROWS = 10
FEWEST_ITEMS = 2
MOST_PROBLEMS = 20
MOST_SCORE = 20

Scores = NDArray[np.int16]


@dataclass(frozen=True, slots=True)
class ResponseTable:
    """Scores of N persons on J items: 0, 1, … or MISSING. scores: (N, J)."""

    items: tuple[str, ...]
    scores: Scores

    @property
    def categories(self) -> NDArray[np.int64]:
        """Number of outcomes of each item, by its greatest score. Shape (J,)."""
        return np.asarray(np.maximum(self.scores.max(axis=0), 1) + 1, dtype=np.int64)

    @property
    def complete(self) -> bool:
        """Whether no answer is missing."""
        return bool((self.scores != MISSING).all())


def _header_problems(header: Sequence[str]) -> list[str]:
    problems = []
    blank = [str(i + 1) for i, name in enumerate(header) if not name]
    if blank:
        problems.append(
            gettext("line 1: column {blank} has no name").format(blank=", ".join(blank))
        )
    twice = sorted(name for name, times in Counter(header).items() if name and times > 1)
    problems += [gettext("line 1: “{name}” names two columns").format(name=name) for name in twice]
    if header and all(name in {"0", "1", ""} for name in header):
        problems.append(
            gettext("line 1: this is a row of scores; it must be a header with the items' names")
        )
    if len(header) < FEWEST_ITEMS:
        problems.append(
            gettext("line 1: at least {fewest_items} items are needed, not {count}").format(
                fewest_items=FEWEST_ITEMS, count=len(header)
            )
        )
    return problems


def _score(text: str, most: int) -> int | None:
    if not text:
        return MISSING
    return int(text) if text.isascii() and text.isdigit() and int(text) <= most else None


def _row_problems(line: int, row: Sequence[str], header: Sequence[str], most: int) -> list[str]:
    if len(row) != len(header):
        return [
            gettext("line {line}: {count} values under a header of {count2} names").format(
                line=line, count=len(row), count2=len(header)
            )
        ]
    wanted = (
        gettext("0, 1 or blank")
        if most == 1
        else gettext("a whole number from 0 to {most} or blank").format(most=most)
    )
    return [
        gettext("line {line}, {name}: “{text}” is not {wanted}").format(
            line=line, name=name, text=text[:20], wanted=wanted
        )
        for name, text in zip(header, row, strict=True)
        if _score(text, most) is None
    ]


def check_table(table: ResponseTable) -> list[str]:
    """Return what makes a whole table unfit for calibration; empty if nothing does."""
    if len(table.scores) < FEWEST_ROWS:
        return [
            gettext("at least {fewest_rows} rows are needed, not {count}").format(
                fewest_rows=FEWEST_ROWS, count=len(table.scores)
            )
        ]
    return []


def read_table(text: str, *, most_score: int = 1) -> ResponseTable:
    """Read a table from CSV text with a header row; blank is missing. The delimiter is a comma,
    semicolon or tab.

    most_score: greatest score allowed, 1 for right or wrong. Raises TableInvalid with everything
    that is wrong, by line and column.
    """
    first = text.lstrip("\ufeff").splitlines()[:1]
    delimiter = max(",;\t", key=lambda mark: (first or [""])[0].count(mark))
    lines = csv.reader(io.StringIO(text.lstrip("\ufeff")), delimiter=delimiter)
    try:
        rows = [[cell.strip() for cell in row] for row in lines]
    except csv.Error as error:
        says = gettext("line {line}: it can’t be read as CSV")
        raise TableInvalid([says.format(line=lines.line_num)]) from error
    while rows and not any(rows[-1]):
        rows.pop()
    if not rows:
        raise TableInvalid([gettext("the file is empty")])
    header, *body = rows
    problems = _header_problems(header)
    for line, row in enumerate(body, start=2):
        if len(problems) < MOST_PROBLEMS:
            problems += _row_problems(line, row, header, most_score)
    if problems:
        raise TableInvalid(problems[:MOST_PROBLEMS])
    scores = [[_score(text, most_score) for text in row] for row in body]
    found = np.array(scores, dtype=np.int16).reshape(len(body), len(header))
    table = ResponseTable(tuple(header), found)
    problems = check_table(table)
    if problems:
        raise TableInvalid(problems)
    return table
