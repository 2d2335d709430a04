"""What JSON columns of a mark book hold."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval.exams.columns import BandData, Exact
from vendaval_core.assessment.mark_book import Book, Category, CellState, MissingWork
from vendaval_core.assessment.rules import Band
from vendaval_core.assessment.scale import Scale

Key = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,24}$")]
Title = Annotated[str, Field(min_length=1, max_length=60)]
Kind = Literal["tests", "tasks", "outside"]
Counts = Literal["mark", "done"]
MOST_CATEGORIES, MOST_OUTSIDE, MOST_PLACED = 12, 40, 300


class Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class CategoryData(Kept):
    """See the core's `Category`. takes: kinds of work that go into it unless placed elsewhere."""

    key: Key
    title: Title
    weight: Annotated[Exact, Field(ge=0, le=1000)]
    drop: Annotated[int, Field(ge=0, le=10)] = 0
    takes: list[Kind] = []


class PlacedData(Kept):
    """Where one piece of work counts, None for nowhere; and whether its mark counts, or that it was
    done."""

    category: Key | None = None
    counts: Counts = "mark"


class OutsideData(Kept):
    """Work from outside, such as an oral. shown: whether learners see its marks, which is when they
    count."""

    key: Key
    title: Title
    of: Annotated[Exact, Field(gt=0, le=1000)] = Fraction(20)
    on: date | None = None
    shown: bool = False


class BookData(Kept):
    """How the marks of a term come about. placed: by column, where it isn't as categories take."""

    most: int = 20
    step: Exact = Fraction(1)
    pass_mark: Exact | None = Fraction(10)
    bands: Annotated[list[BandData], Field(max_length=12)] = []
    missing: MissingWork = MissingWork.NOTHING
    categories: Annotated[list[CategoryData], Field(max_length=MOST_CATEGORIES)] = []
    placed: Annotated[dict[str, PlacedData], Field(max_length=MOST_PLACED)] = {}
    outside: Annotated[list[OutsideData], Field(max_length=MOST_OUTSIDE)] = []

    def scale(self) -> Scale:
        """As the core takes it."""
        bands = tuple(Band(band.name, band.least) for band in self.bands)
        return Scale(Fraction(self.most), self.step, bands, self.pass_mark)

    def core(self, columns: Mapping[str, Sequence[str]]) -> Book:
        """As the core takes it. columns: keys of each category's work, in order."""
        return Book(
            tuple(
                Category(one.key, one.weight, one.drop, tuple(columns.get(one.key, ())))
                for one in self.categories
            ),
            self.missing,
        )


class FixedCell(BaseModel):
    """A cell as it was when the term was closed. mark: on the scale, not rounded."""

    column: str
    standing: CellState
    mark: Exact | None = None
    late: bool = False
    dropped: bool = False


class FixedData(BaseModel):
    """A learner's row as it was when the term was closed. exact: on the scale, before rounding."""

    mark: Exact | None
    exact: Exact | None
    sum: str
    cells: list[FixedCell]


class FixedColumn(BaseModel):
    """A column as it was when the term was closed."""

    key: str
    title: str
    kind: Kind
    category: str | None
    counts: Counts = "mark"
