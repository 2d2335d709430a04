"""Parts of a family file that are answered on a grid or a figure."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .. import plane
from ..fields import Expression, FigureModel, NearMissModel, Part, Strict, Text

Tolerance = Expression | tuple[Expression, Expression]


class AxisModel(Strict):
    """`clock: true`: minutes after midnight, shown as times of day."""

    low: float
    high: float
    step: float = Field(default=1.0, gt=0)
    mark: float = Field(default=1.0, gt=0)
    name: str = ""
    clock: bool = False

    def to_core(self) -> plane.Axis:
        return plane.Axis(self.low, self.high, self.step, self.mark, self.name, self.clock)


class TargetModel(Strict):
    """`tolerance`: a distance, or one across and one up."""

    x: Expression
    y: Expression
    tolerance: Tolerance
    name: str = ""

    def to_core(self) -> plane.Target:
        return plane.Target(self.x, self.y, self.tolerance, self.name)


class MisplacedModel(Strict):
    """A foreseen wrong place. `tolerance`: that of the first target when left out."""

    x: Expression
    y: Expression
    tolerance: Tolerance | None = None
    says: Text

    def to_core(self, tolerance: Tolerance) -> plane.Misplaced:
        return plane.Misplaced(self.x, self.y, self.tolerance or tolerance, self.says)


class HeightModel(Strict):
    """A height to read off a line or curve as it moves, at `at` on the x axis."""

    at: Expression
    name: Text
    unit: str = ""
    digits: int = Field(default=1, ge=0, le=3)

    def to_core(self) -> plane.Height:
        return plane.Height(self.at, self.name, self.unit, self.digits)


class PointsPartModel(Part):
    """graph: what `draws` says: arrows (each from the end of the one before; `readings: [M, °]`
    shows length in that unit and direction while one is moved), a straight line, or a tide (half
    a cosine from each point to the next); `heights` are shown of the last two."""

    kind: Literal["select_point", "position_object", "graph"]
    x: AxisModel
    y: AxisModel
    targets: list[TargetModel] = Field(min_length=1, max_length=6)
    figure: FigureModel | None = None
    draws: plane.Draws = "arrows"
    start: tuple[Expression, Expression] = (0.0, 0.0)
    readings: tuple[str, str] | None = None
    heights: list[HeightModel] = Field(default=[], max_length=4)
    object: str = ""
    near_misses: list[MisplacedModel] = []

    @model_validator(mode="after")
    def drawn_as_said(self) -> PointsPartModel:
        curved = self.kind == "graph" and self.draws != "arrows"
        if self.draws != "arrows" and self.kind != "graph":
            raise ValueError("only a graph draws a line or a tide")
        if curved and len(self.targets) < 2:
            raise ValueError("a line or a tide goes through two points at least")
        if self.heights and not curved:
            raise ValueError("heights belong to a line or a tide")
        if self.readings and (self.kind != "graph" or curved):
            raise ValueError("readings belong to arrows")
        return self

    def to_core(self) -> plane.PointsPart:
        return plane.PointsPart(
            self.id,
            self.x.to_core(),
            self.y.to_core(),
            tuple(target.to_core() for target in self.targets),
            self.kind,
            self.label,
            self.figure.to_core() if self.figure else None,
            self.draws,
            self.start,
            self.readings,
            tuple(height.to_core() for height in self.heights),
            self.object,
            tuple(miss.to_core(self.targets[0].tolerance) for miss in self.near_misses),
        )


class ShadingPartModel(Part):
    kind: Literal["grid_shading"]
    rows: int = Field(ge=1, le=12)
    columns: int = Field(ge=1, le=20)
    answer: Expression
    near_misses: list[NearMissModel] = []

    def to_core(self) -> plane.ShadingPart:
        return plane.ShadingPart(
            self.id,
            self.rows,
            self.columns,
            self.answer,
            self.label,
            tuple(miss.to_core() for miss in self.near_misses),
        )
