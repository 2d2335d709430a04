"""The parts of a family file, one model for each kind. docs/content.md shows each by example."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Discriminator, Field, Tag, model_validator

from .. import drawn
from .. import parts as core
from ..fields import (
    Expression,
    FigureModel,
    NearMissModel,
    Part,
    RegionModel,
    Strict,
    Text,
)
from ..units import converted
from .grid_shading import PointsPartModel, ShadingPartModel
from .slots import (
    AssociatePartModel,
    GapMatchPartModel,
    GraphicGapMatchPartModel,
    InlineChoicePartModel,
    MatchPartModel,
    OrderPartModel,
)


class ChoiceOptionModel(Strict):
    text: Text
    right: bool | str = False
    says: Text | None = None
    at: RegionModel | None = None
    points: int = Field(default=0, ge=-10, le=10)

    def to_core(self) -> core.ChoiceOption:
        region = self.at.to_core() if self.at else None
        return core.ChoiceOption(self.text, self.right, self.says, region, self.points)


class ChoicePartModel(Part):
    """`choose`: 1, another number, or any. `bounds`: least and most that `points` come to."""

    kind: Literal["choice", "hot_text", "hotspot"]
    shuffle: bool = True
    choose: Annotated[int, Field(ge=1, le=8)] | Literal["any"] = 1
    partial: bool = False
    text: str = ""
    figure: FigureModel | None = None
    bounds: tuple[Annotated[int, Field(ge=0)], Annotated[int, Field(ge=1, le=10)]] | None = None
    choices: list[ChoiceOptionModel] = Field(min_length=2, max_length=12)

    @model_validator(mode="after")
    def points_have_bounds(self) -> ChoicePartModel:
        if (self.bounds is not None) != any(choice.points for choice in self.choices):
            raise ValueError("points and bounds go together")
        if self.bounds is not None and (self.partial or self.bounds[0] >= self.bounds[1]):
            raise ValueError("bounds rise, and take the place of partial")
        return self

    def to_core(self) -> core.ChoicePart:
        return core.ChoicePart(
            self.id,
            tuple(choice.to_core() for choice in self.choices),
            self.label,
            self.shuffle,
            None if self.choose == "any" else self.choose,
            self.partial,
            self.kind,
            self.text,
            self.figure.to_core() if self.figure else None,
            self.bounds,
        )


class _TypedPart(Part):
    near_misses: list[NearMissModel] = []

    @property
    def core_misses(self) -> tuple[drawn.NearMiss, ...]:
        return tuple(miss.to_core() for miss in self.near_misses)


class NumberPartModel(_TypedPart):
    """`tolerance` is absolute; `relative` a share of the answer; `figures` significant ones."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["number", "angle"]
    answer: Expression
    tolerance: Expression = 0.0
    relative: float | None = Field(default=None, gt=0, lt=1)
    figures: int | None = Field(default=None, ge=1, le=6)
    unit: str = ""
    digits: int = Field(default=0, ge=0, le=6)
    least: Expression | None = None
    most: Expression | None = None
    units: list[str] = []
    words: list[str] = []
    given: bool = False

    @model_validator(mode="after")
    def units_convert(self) -> NumberPartModel:
        for unit in self.units:
            if converted(1, unit, self.unit) is None:
                raise ValueError(f"“{unit}” does not convert to “{self.unit}”")
        return self

    def to_core(self) -> core.NumberEntryPart:
        return core.NumberEntryPart(
            self.id,
            self.answer,
            self.tolerance,
            self.unit,
            self.digits,
            self.label,
            self.core_misses,
            self.least,
            self.most,
            self.relative,
            self.figures,
            self.value == "angle",
            units=tuple(self.units),
            words=tuple(word.casefold() for word in self.words),
            given=self.given,
        )


class SliderPartModel(_TypedPart):
    kind: Literal["slider"]
    low: Expression
    high: Expression
    step: Expression
    answer: Expression
    tolerance: Expression = 0.0
    unit: str = ""
    digits: int = Field(default=0, ge=0, le=6)

    def to_core(self) -> core.NumberEntryPart:
        return core.NumberEntryPart(
            self.id,
            self.answer,
            self.tolerance,
            self.unit,
            self.digits,
            self.label,
            self.core_misses,
            slider=(self.low, self.high, self.step),
        )


class TimePartModel(_TypedPart):
    kind: Literal["text_entry"] = "text_entry"
    value: Literal["time"]
    answer: Expression
    tolerance: Expression = 1.0

    def to_core(self) -> core.TimeEntryPart:
        return core.TimeEntryPart(
            self.id, self.answer, self.tolerance, self.label, self.core_misses
        )


class WordPartModel(_TypedPart):
    """`slips`: letters that may differ."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["text"]
    accepted: list[Text] = Field(min_length=1, max_length=20)
    case: bool = False
    accents: bool = False
    slips: int = Field(default=0, ge=0, le=3)

    def to_core(self) -> core.TextEntryPart:
        return core.TextEntryPart(
            self.id,
            tuple(self.accepted),
            self.label,
            self.core_misses,
            self.case,
            self.accents,
            self.slips,
        )


class ExpressionPartModel(_TypedPart):
    kind: Literal["text_entry"] = "text_entry"
    value: Literal["expression"]
    answer: Text
    symbols: list[Annotated[str, Field(pattern=r"^[A-Za-z]$")]] = Field(min_length=1, max_length=8)
    form: Literal["any", "expanded", "factorised", "simplified"] = "any"

    def to_core(self) -> core.ExpressionPart:
        return core.ExpressionPart(
            self.id, self.answer, tuple(self.symbols), self.form, self.label, self.core_misses
        )


def _cell_tag(value: object) -> str:
    if isinstance(value, str):
        return "text"
    found = value.get("value") if isinstance(value, dict) else getattr(value, "value", None)
    return {"angle": "number", "text": "words"}.get(str(found), str(found))


CellModel = Annotated[
    Annotated[str, Tag("text")]
    | Annotated[NumberPartModel, Tag("number")]
    | Annotated[TimePartModel, Tag("time")]
    | Annotated[WordPartModel, Tag("words")],
    Discriminator(_cell_tag),
]


class RowModel(Strict):
    label: str = ""
    cells: list[CellModel] = Field(min_length=1, max_length=8)


class TableEntryPartModel(Part):
    """`columns`: headings, that of the labels first."""

    kind: Literal["table_entry"]
    columns: list[str] = Field(min_length=2, max_length=9)
    rows: list[RowModel] = Field(min_length=1, max_length=12)
    partial: bool = True

    @model_validator(mode="after")
    def is_a_table(self) -> TableEntryPartModel:
        for number, row in enumerate(self.rows):
            if len(row.cells) != len(self.columns) - 1:
                raise ValueError(f"row {number} has {len(row.cells)} cells under these columns")
        ids = [cell.id for row in self.rows for cell in row.cells if not isinstance(cell, str)]
        if not ids or len(set(ids)) < len(ids):
            raise ValueError("cells to fill want ids of their own, and there must be one at least")
        return self

    def to_core(self) -> core.TableEntryPart:
        rows = tuple(
            (row.label, tuple(c if isinstance(c, str) else c.to_core() for c in row.cells))
            for row in self.rows
        )
        return core.TableEntryPart(self.id, tuple(self.columns), rows, self.label, self.partial)


class CriterionModel(Strict):
    """What a marker looks for, and its points."""

    says: Text
    points: int = Field(ge=1, le=20)

    def to_core(self) -> core.Criterion:
        return core.Criterion(self.says, self.points)


class WrittenPartModel(Part):
    """Kept and shown beside `model`; counted where a person marks it, by `criteria` if any."""

    kind: Literal["extended_text", "drawing", "upload"]
    model: Text
    criteria: list[CriterionModel] = Field(default_factory=list, max_length=12)

    def to_core(self) -> core.WrittenPart:
        criteria = tuple(one.to_core() for one in self.criteria)
        return core.WrittenPart(self.id, self.model, self.kind, self.label, criteria)


def _part_tag(value: object) -> str:
    def get(name: str) -> object:
        return value.get(name) if isinstance(value, dict) else getattr(value, name, None)

    kind = str(get("kind"))
    if kind == "text_entry":
        value_kind = str(get("value"))
        return f"text_entry.{'number' if value_kind == 'angle' else value_kind}"
    groups = {
        "choice": ("choice", "hot_text", "hotspot"),
        "points": ("select_point", "position_object", "graph"),
        "written": ("extended_text", "drawing", "upload"),
    }
    return next((group for group, kinds in groups.items() if kind in kinds), kind)


PartModel = Annotated[
    Annotated[ChoicePartModel, Tag("choice")]
    | Annotated[NumberPartModel, Tag("text_entry.number")]
    | Annotated[TimePartModel, Tag("text_entry.time")]
    | Annotated[WordPartModel, Tag("text_entry.text")]
    | Annotated[ExpressionPartModel, Tag("text_entry.expression")]
    | Annotated[SliderPartModel, Tag("slider")]
    | Annotated[OrderPartModel, Tag("order")]
    | Annotated[MatchPartModel, Tag("match")]
    | Annotated[InlineChoicePartModel, Tag("inline_choice")]
    | Annotated[GapMatchPartModel, Tag("gap_match")]
    | Annotated[GraphicGapMatchPartModel, Tag("graphic_gap_match")]
    | Annotated[AssociatePartModel, Tag("associate")]
    | Annotated[TableEntryPartModel, Tag("table_entry")]
    | Annotated[PointsPartModel, Tag("points")]
    | Annotated[ShadingPartModel, Tag("grid_shading")]
    | Annotated[WrittenPartModel, Tag("written")],
    Discriminator(_part_tag),
]
