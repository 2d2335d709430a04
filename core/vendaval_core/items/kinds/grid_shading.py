"""Shade cells of a grid: how many counts, not which."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from pydantic import Field

from vendaval_core.language import gettext

from ...errors import ExpressionError
from ..drawn import KeyedNearMiss
from ..expressions import evaluate_number
from ..fields import Expression, NearMissModel, Values
from ..mark import PartMark, lines, shared, unreadable
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill
from .common import (
    Canonical,
    MarkedByRule,
    NoAxes,
    NoFigure,
    NotChosen,
    NotTyped,
    OnePiece,
    WrongAsExample,
    same_slips,
)
from .protocol import Examples, Foreseen, Part


class ShadingPart(Part):
    """`answer`: how many of the cells."""

    kind: Literal["grid_shading"]
    rows: int = Field(ge=1, le=12)
    columns: int = Field(ge=1, le=20)
    answer: Expression
    near_misses: list[NearMissModel] = []

    def key(self, values: Values, stream: SeededStream) -> ShadingKey:
        count = round(evaluate_number(self.answer, values))
        if not 0 < count <= self.rows * self.columns:
            raise ExpressionError(gettext("{count} cells cannot be shaded").format(count=count))
        return ShadingKey(
            self.id,
            fill(self.label, values),
            self.rows,
            self.columns,
            count,
            tuple(miss.as_number(values) for miss in self.near_misses),
        )


@dataclass(frozen=True, slots=True)
class ShadingKey(
    WrongAsExample, MarkedByRule, OnePiece, NoFigure, NoAxes, NotTyped, NotChosen, Canonical
):
    """A grid of which `answer` cells are to be shaded. A response is a line `row column` for each
    shaded cell, from 0."""

    id: str
    label: str
    rows: int
    columns: int
    answer: int
    near_misses: tuple[KeyedNearMiss, ...] = ()

    @property
    def kind(self) -> str:
        return "grid_shading"

    @property
    def units(self) -> int:
        return 1

    @property
    def guess_chance(self) -> float:
        return 0.0

    @property
    def examples(self) -> Examples:
        off = 1 if self.answer < self.rows * self.columns else -1
        return Examples(self._shaded(self.answer), self._shaded(self.answer + off), None, "0 99")

    def _shaded(self, count: int) -> str:
        return "\n".join(f"{i // self.columns} {i % self.columns}" for i in range(count))

    def mark(self, response: str) -> PartMark:
        cells = set()
        for line in lines(response):
            row, _, column = line.partition(" ")
            if not (row.isascii() and row.isdigit() and column.isascii() and column.isdigit()):
                return unreadable(gettext("That isn’t a cell of the grid."))
            if int(row) >= self.rows or int(column) >= self.columns:
                return unreadable(gettext("That isn’t a cell of the grid."))
            cells.add((int(row), int(column)))
        if not cells:
            return unreadable(gettext("You haven’t shaded anything yet."))
        count = len(cells)
        says = next((m.says for m in self.near_misses if m.value == count), None)
        if says is None and count == self.rows * self.columns - self.answer:
            says = gettext("You have shaded the part that should stay clear.")
        right = count == self.answer
        return shared(Fraction(int(right)), str(count), None if right else says)

    def _in_words(self, count: int) -> str:
        return gettext("{count} of {rows} cells").format(count=count, rows=self.rows * self.columns)

    def right_words(self) -> str:
        return self._in_words(self.answer)

    def answer_words(self, response: str) -> str:
        return self._in_words(len(lines(response)))

    def foreseen(self) -> Iterator[Foreseen]:
        for miss in self.near_misses:
            count = float(miss.value)
            yield Foreseen(f"{count:g}", self._shaded(int(count)), miss.says)

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (miss.says for miss in self.near_misses)

    def faults(self) -> Iterator[str]:
        for miss in self.near_misses:
            if float(miss.value) == self.answer:
                yield gettext("near miss {value} is right (answer {right_words})").format(
                    value=miss.value, right_words=self.right_words()
                )
        yield from same_slips(self.near_misses)

    def presented(self, html: Html) -> ShadingPartOut:
        return ShadingPartOut(
            kind="grid_shading",
            id=self.id,
            label=self.label,
            rows=self.rows,
            columns=self.columns,
        )


class ShadingPartOut(PartOut):
    kind: Literal["grid_shading"]
    rows: int
    columns: int

    def any_response(self) -> str:
        return "0 0"
