"""Fields that parts of several kinds have, as an author writes them in a family's file.

Expressions are strings for `expressions.evaluate`, texts are templates for `template.fill`.
"""

from __future__ import annotations

from typing import Annotated, Any, Self

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from vendaval_core.language import gettext

from . import drawn
from .expressions import Value, evaluate_number
from .pictures import make_picture
from .template import fill

Values = dict[str, Value]

PartId = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=30)]
Text = Annotated[str, Field(min_length=1, max_length=4000)]
Expression = str | float


def from_pairs(value: object) -> object:
    """Return a mapping from the list of pairs that it is stored as."""
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

    svg: Annotated[str, Field(min_length=20, max_length=300_000)]
    slider: SliderModel | None = None
    values: Annotated[dict[PartId, Expression], BeforeValidator(from_pairs)] = {}
    says: str = ""

    @model_validator(mode="after")
    def moves_or_not(self) -> Self:
        if (self.slider is None) == bool(self.says) or (self.values and self.slider is None):
            raise ValueError(gettext("a moving figure needs a slider and a label for its reading"))
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

    def picture(self, values: Values) -> drawn.Picture:
        """The drawing of one version."""
        return make_picture(self.to_core(), values)


class RegionModel(Strict):
    """Where something lies on a figure: `circle: [x, y, r]` or `rect: [x, y, width, height]`."""

    circle: tuple[Expression, Expression, Expression] | None = None
    rect: tuple[Expression, Expression, Expression, Expression] | None = None

    @model_validator(mode="after")
    def exactly_one(self) -> RegionModel:
        if (self.circle is None) == (self.rect is None):
            raise ValueError(gettext("give either circle or rect"))
        return self

    def shape(self, values: Values) -> drawn.Shape:
        """The place in one version."""
        numbers = self.circle or self.rect or ()
        return drawn.Shape(
            "rect" if self.circle is None else "circle",
            tuple(evaluate_number(number, values) for number in numbers),
        )


class NearMissModel(Strict):
    """A foreseen wrong answer, and what is said to it."""

    answer: Expression
    says: Text

    def as_number(self, values: Values, wrap: float | None = None) -> drawn.KeyedNearMiss:
        """The slip as a number, modulo `wrap` if given."""
        value = evaluate_number(self.answer, values)
        return drawn.KeyedNearMiss(value % wrap if wrap else value, fill(self.says, values))

    def as_text(self, values: Values) -> drawn.KeyedNearMiss:
        """The slip as a text."""
        return drawn.KeyedNearMiss(fill(str(self.answer), values), fill(self.says, values))
