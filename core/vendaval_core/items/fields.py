"""What the parts of a family file share."""

from __future__ import annotations

from typing import Annotated, Any, Self

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from . import drawn

PartId = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=30)]
Text = Annotated[str, Field(min_length=1, max_length=4000)]
Expression = str | float


def from_pairs(value: object) -> object:
    """A mapping from the list of pairs that it is stored as."""
    if isinstance(value, list) and all(isinstance(p, list) and len(p) == 2 for p in value):
        return dict(value)
    return value


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class SliderModel(Strict):
    """What moves a figure: `name` is the variable, `label` says what it is and its unit."""

    name: PartId
    label: Text
    low: Expression
    high: Expression
    step: Expression
    start: Expression

    def to_core(self) -> drawn.Slider:
        return drawn.Slider(self.name, self.label, self.low, self.high, self.step, self.start)


class FigureFileModel(Strict):
    """A drawing. One that moves has a `slider`, `values` worked out in turn at each step, and
    `says`, what is read off there."""

    svg: Annotated[str, Field(min_length=20, max_length=30_000)]
    slider: SliderModel | None = None
    values: Annotated[dict[PartId, Expression], BeforeValidator(from_pairs)] = {}
    says: str = ""

    @model_validator(mode="after")
    def moves_or_not(self) -> Self:
        if (self.slider is None) == bool(self.says) or (self.values and self.slider is None):
            raise ValueError("a figure that moves has a slider and says what is read off")
        return self


def _or_file(schema: dict[str, Any]) -> None:
    """A family's file names a figure's file, whose fields the reader puts in its place."""
    schema["properties"]["file"] = {"type": "string", "pattern": r"^[\w-]+\.(svg|yaml)$"}
    schema["required"] = ["alt"]
    schema["oneOf"] = [{"required": ["svg"]}, {"required": ["file"]}]


class FigureModel(FigureFileModel):
    """A drawing with its description: `svg` holds it, or `file` names it in the topic's `figures`
    folder, as SVG or as YAML."""

    model_config = ConfigDict(json_schema_extra=_or_file)

    alt: Text

    def to_core(self) -> drawn.Figure:
        slider = self.slider.to_core() if self.slider else None
        return drawn.Figure(self.svg, self.alt, slider, tuple(self.values.items()), self.says)


class RegionModel(Strict):
    """Where something lies on a figure: `circle: [x, y, r]` or `rect: [x, y, width, height]`."""

    circle: tuple[Expression, Expression, Expression] | None = None
    rect: tuple[Expression, Expression, Expression, Expression] | None = None

    @model_validator(mode="after")
    def exactly_one(self) -> RegionModel:
        if (self.circle is None) == (self.rect is None):
            raise ValueError("give one of circle, rect")
        return self

    def to_core(self) -> drawn.Region:
        if self.circle is not None:
            return drawn.Region("circle", self.circle)
        assert self.rect is not None
        return drawn.Region("rect", self.rect)


class NearMissModel(Strict):
    """A foreseen wrong answer, and what is said to it."""

    answer: Expression
    says: Text

    def to_core(self) -> drawn.NearMiss:
        return drawn.NearMiss(self.answer, self.says)


class Part(Strict):
    """A part's id, and its name when a question has several."""

    id: PartId
    label: str = ""
