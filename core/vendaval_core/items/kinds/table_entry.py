"""Fill cells of a table with numbers, times and short texts."""

from __future__ import annotations

import random
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import BaseModel, Discriminator, Field, Tag, model_validator

from vendaval_core.language import gettext

from ...words import counted
from ..fields import Strict, Values
from ..mark import BLANK, PartMark, Piece, ReadBack, Verdict, incomplete, shared, unreadable
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill
from .common import NOTHING, Canonical, MarkedByRule, NoAxes, NoFigure, NotChosen, pieces_in_words
from .number import NumberPart
from .protocol import Examples, Foreseen, Part
from .short_text import WordPart
from .time_of_day import TimePart
from .typed import CellKey, CellValue, typed_like


def _cell_tag(value: object) -> str:
    if isinstance(value, str):
        return "text"
    found = value.get("value") if isinstance(value, dict) else getattr(value, "value", None)
    return {"angle": "number", "text": "words"}.get(str(found), str(found))


CellModel = Annotated[
    Annotated[str, Tag("text")]
    | Annotated[NumberPart, Tag("number")]
    | Annotated[TimePart, Tag("time")]
    | Annotated[WordPart, Tag("words")],
    Discriminator(_cell_tag),
]


class RowModel(Strict):
    """A row: its label and its cells, texts or parts to answer."""

    label: str = ""
    cells: list[CellModel] = Field(min_length=1, max_length=8)


class TableEntryPart(Part):
    """`columns`: headings, that of the labels first. `partial`: a share for each cell."""

    kind: Literal["table_entry"]
    columns: list[str] = Field(min_length=2, max_length=9)
    rows: list[RowModel] = Field(min_length=1, max_length=12)
    partial: bool = True

    @model_validator(mode="after")
    def is_a_table(self) -> TableEntryPart:
        for number, row in enumerate(self.rows):
            if len(row.cells) != len(self.columns) - 1:
                raise ValueError(
                    gettext("row {number} has {count} cells under these columns").format(
                        number=number, count=len(row.cells)
                    )
                )
        ids = [cell.id for row in self.rows for cell in row.cells if not isinstance(cell, str)]
        if not ids or len(set(ids)) < len(ids):
            raise ValueError(
                gettext("a table needs at least one cell to fill, each with its own id")
            )
        return self

    def key(self, values: Values, stream: SeededStream) -> TableKey:
        rows = tuple(
            (
                fill(row.label, values),
                tuple(
                    fill(cell, values) if isinstance(cell, str) else cell.key(values, stream)
                    for cell in row.cells
                ),
            )
            for row in self.rows
        )
        columns = tuple(fill(column, values) for column in self.columns)
        return TableKey(self.id, fill(self.label, values), columns, rows, self.partial)


@dataclass(frozen=True, slots=True)
class TableKey(MarkedByRule, NoFigure, NoAxes, NotChosen, Canonical):
    """Rows of texts and cells to fill; a cell's id is unique in the table. A response is a line
    `id text` for each cell."""

    id: str
    label: str
    columns: tuple[str, ...]
    rows: tuple[tuple[str, tuple[str | CellKey, ...]], ...]
    partial: bool

    @property
    def kind(self) -> str:
        return "table_entry"

    @property
    def cells(self) -> tuple[CellKey, ...]:
        """The cells to fill, row by row."""
        return tuple(c for _, row in self.rows for c in row if not isinstance(c, str))

    @property
    def units(self) -> int:
        return len(self.cells) if self.partial else 1

    @property
    def guess_chance(self) -> float:
        return 0.0

    @property
    def examples(self) -> Examples:
        right = {cell.id: cell.examples.right for cell in self.cells}
        wrong = {cell.id: cell.examples.wrong for cell in self.cells}
        first = self.cells[0].id
        partly = _written(wrong | {first: right[first]})
        several = self.partial and len(right) > 1
        return Examples(
            _written(right), _written(wrong), partly if several else None, f"{first} a lot"
        )

    def mark(self, response: str) -> PartMark:
        typed = read_cells(response)
        marks = {cell.id: cell.mark(typed.get(cell.id, "")) for cell in self.cells}
        for cell in self.cells:
            if cell.id in typed and marks[cell.id].verdict is Verdict.UNREADABLE:
                return unreadable(f"{self._place_of(cell)}: {marks[cell.id].says}")
        hits = sum(mark.verdict is Verdict.RIGHT for mark in marks.values())
        share = Fraction(hits, len(marks)) if self.partial else Fraction(int(hits == len(marks)))
        wrong = (mark for mark in marks.values() if mark.verdict is Verdict.WRONG)
        says = next((mark.says for mark in wrong if mark.says), None)
        canonical = _written({id_: marks[id_].canonical for id_ in marks if id_ in typed})
        if empty := sum(cell.id not in typed for cell in self.cells):
            return incomplete(_empty_words(empty), share, canonical, len(marks))
        return shared(share, canonical, says, len(marks))

    def read_back(self, response: str) -> ReadBack:
        typed = read_cells(response)
        if not typed:
            return BLANK
        says = []
        for cell in self.cells:
            read = cell.read_back(typed.get(cell.id, ""))
            said = f"{self._place_of(cell)}: {read.says}"
            if read.state == "unreadable":
                return ReadBack("unreadable", said)
            says += [said] if read.says else []
        if empty := sum(cell.id not in typed for cell in self.cells):
            return ReadBack("incomplete", " ".join([*says, _empty_words(empty)]))
        return ReadBack("read", " ".join(says))

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        typed = read_cells(response)
        return [
            Piece(
                self._place_of(cell),
                typed.get(cell.id, NOTHING),
                cell.right_words(),
                cell.mark(typed.get(cell.id, "")).verdict is Verdict.RIGHT,
            )
            for cell in self.cells
        ]

    def _place_of(self, cell: CellKey) -> str:
        if cell.label:
            return cell.label
        for label, row in self.rows:
            if cell in row:
                return f"{label}, {self.columns[row.index(cell) + 1]}".strip(", ")
        return cell.id

    def usual_forms(self) -> Iterator[str]:
        right = read_cells(self.examples.right)
        for cell in self.cells:
            for form in cell.usual_forms():
                lines = right | {cell.id: form}
                yield "\n".join(f"{id_} {text}" for id_, text in lines.items())

    def right_when_typed(self, text: str) -> bool:
        return any(cell.right_when_typed(text) for cell in self.cells)

    def likely_wrong(self, rng: random.Random) -> str:
        return _written({cell.id: cell.likely_wrong(rng) for cell in self.cells})

    def foreseen(self) -> Iterator[Foreseen]:
        right = {cell.id: cell.examples.right for cell in self.cells}
        for cell in self.cells:
            for slip in cell.foreseen():
                response = _written(right | {cell.id: slip.response})
                yield Foreseen(slip.words, response, slip.says)

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from self.columns
        for label, row in self.rows:
            yield label
            yield from (cell for cell in row if isinstance(cell, str))
        for cell in self.cells:
            yield from cell.texts()

    def faults(self) -> Iterator[str]:
        for cell in self.cells:
            yield from cell.faults()

    def presented(self, html: Html) -> TablePartOut:
        return TablePartOut(
            kind="table_entry",
            id=self.id,
            label=self.label,
            columns=list(self.columns),
            rows=[
                RowOut(label=label, cells=[_cell_out(cell, html) for cell in row])
                for label, row in self.rows
            ],
        )


def read_cells(response: str) -> dict[str, str]:
    """Return what was typed, by cell id, from lines of `id text`."""
    found = {}
    for line in response.splitlines():
        cell, _, text = line.partition(" ")
        if text.strip():
            found[cell] = text.strip()
    return found


def _empty_words(count: int) -> str:
    cells = counted(count, "cell", "cells")
    return gettext("{cells} still to fill.").format(cells=cells)


def _written(typed: Mapping[str, str]) -> str:
    return "\n".join(f"{cell} {text}" for cell, text in typed.items())


def _cell_out(cell: str | CellKey, html: Html) -> CellOut:
    if isinstance(cell, str):
        return CellOut(id=None, html=html(cell), value=None, unit="")
    return CellOut(id=cell.id, html="", value=cell.value, unit=cell.unit)


class CellOut(BaseModel):
    """A cell: text, or a field with its id."""

    id: str | None
    html: str
    value: CellValue | None
    unit: str


class RowOut(BaseModel):
    label: str
    cells: list[CellOut]


class TablePartOut(PartOut):
    kind: Literal["table_entry"]
    columns: list[str]
    rows: list[RowOut]

    def any_response(self) -> str:
        cells = [cell for row in self.rows for cell in row.cells if cell.id is not None]
        return "\n".join(f"{cell.id} {typed_like(cell.value or '')}" for cell in cells)
