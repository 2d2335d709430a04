"""A spreadsheet of questions: its columns, found by their headings however people write them."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

WRONGS = 5
COLUMNS = (
    "topic",
    "question",
    "right",
    *(f"wrong {n}" for n in range(1, WRONGS + 1)),
    "feedback right",  # not said
    *(f"feedback wrong {n}" for n in range(1, WRONGS + 1)),  # not said
    "hint",
    "solution",
    "difficulty",
    "essential",
    "seconds",
    "picture",
)
NEEDED = ("question", "right")
MOST_ROWS = 1_000
# Other headings that say the same.
_ALSO = {
    "prompt": "question",
    "answer": "right",
    "answers": "right",
    "right answer": "right",  # not said
    "correct": "right",
    "correct answer": "right",  # not said
    "level": "difficulty",
    "time": "seconds",
    "explanation": "solution",
    "worked solution": "solution",  # not said
    "hints": "hint",
    "figure": "picture",
    "image": "picture",
    "feedback": "feedback right",  # not said
    "feedback correct": "feedback right",  # not said
    "wrong": "wrong 1",
    "feedback wrong": "feedback wrong 1",  # not said
}


@dataclass(frozen=True, slots=True)
class SheetRow:
    """A question as somebody wrote it. line: in their file, from 1. cells: text by column, only
    those that aren't empty."""

    line: int
    cells: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Sheet:
    """rows: without empty ones. unread: headings of columns that mean nothing here. faults: why
    nothing of it can be read; empty if it can."""

    rows: tuple[SheetRow, ...]
    unread: tuple[str, ...]
    faults: tuple[str, ...] = ()


def read_sheet(table: Sequence[Sequence[str]]) -> Sheet:
    """Read a table of text whose first row that isn't empty has the headings."""
    start = next((n for n, row in enumerate(table) if any(cell.strip() for cell in row)), None)
    if start is None:
        return Sheet((), (), (gettext("The file is empty."),))
    columns = [column_of(cell) for cell in table[start]]
    faults = [
        gettext("There is no column “{name}”.").format(name=name)
        for name in NEEDED
        if name not in columns
    ]
    faults += [
        gettext("Two columns are called “{name}”.").format(name=name)
        for name in COLUMNS
        if columns.count(name) > 1
    ]
    rows = [
        SheetRow(line, _cells(columns, row))
        for line, row in enumerate(table[start + 1 :], start=start + 2)
        if any(cell.strip() for cell in row)
    ]
    if len(rows) > MOST_ROWS:
        says = gettext("It has more than {most} questions. Split it into several files.")
        faults.append(says.format(most=MOST_ROWS))
    unread = tuple(
        cell.strip()
        for cell, column in zip(table[start], columns, strict=True)
        if column is None and cell.strip()
    )
    return Sheet((), unread, tuple(faults)) if faults else Sheet(tuple(rows), unread)


def column_of(heading: str) -> str | None:
    """Which column a heading means, None for none. “Wrong_Answer 2” is “wrong 2”."""
    plain = unicodedata.normalize("NFKC", heading).casefold()
    words = re.sub(r"[\W_]+", " ", re.sub(r"(?<=[a-z])(?=\d)", " ", plain)).strip()
    words = re.sub(r"\b(incorrect|distractor)\b", "wrong", words)
    words = re.sub(r"\b(wrong) (answer|choice|option)\b", r"\1", words)
    words = re.sub(r"^(wrong(?: \d)?) feedback$", r"feedback \1", words)
    words = re.sub(r"^(right|correct) feedback$", r"feedback \1", words)
    found = _ALSO.get(words, words)
    return found if found in COLUMNS else None


def _cells(columns: Sequence[str | None], row: Sequence[str]) -> dict[str, str]:
    named = zip(columns, row, strict=False)
    # Before what a spreadsheet would take for a formula there is an apostrophe.
    return {
        name: re.sub(r"^'(?=[=+@\-])", "", cell.strip())
        for name, cell in named
        if name is not None and cell.strip()
    }
