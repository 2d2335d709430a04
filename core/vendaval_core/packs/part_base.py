"""What the parts of a family file share."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..items import drawn

PartId = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=30)]
Text = Annotated[str, Field(min_length=1, max_length=4000)]
Expression = str | float


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class FigureModel(Strict):
    """A drawing: `file` names an SVG in the topic's `figures` folder, or `svg` holds it."""

    svg: Annotated[str, Field(min_length=20, max_length=30_000)]
    alt: Text

    def to_core(self) -> drawn.Figure:
        return drawn.Figure(self.svg, self.alt)


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
