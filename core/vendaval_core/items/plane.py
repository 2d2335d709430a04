"""Parts answered on a grid or a figure, as authors write them, as versions key them, and how the
one becomes the other: points, arrows, lines, curves, shaded cells."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from ..errors import ExpressionError
from .drawn import Expression, Figure, KeyedNearMiss, NearMiss, Picture

Number = Callable[[Expression], float]
Text = Callable[[str], str]
Draws = Literal["arrows", "line", "tide"]


@dataclass(frozen=True, slots=True)
class Axis:
    """One axis of a grid: from low to high, points snap to step, a line every `mark`.

    clock: values are minutes after midnight and shown as times of day.
    """

    low: float
    high: float
    step: float
    mark: float
    name: str = ""
    clock: bool = False


@dataclass(frozen=True, slots=True)
class Target:
    """Where a point must go: x, y in the axes' units.

    tolerance: a distance, or one across and one up where the axes have different units (QTI 3
    area map: a circle or a rectangle round the point).
    """

    x: Expression
    y: Expression
    tolerance: Expression | tuple[Expression, Expression]
    name: str = ""


@dataclass(frozen=True, slots=True)
class Misplaced:
    """A foreseen wrong place for a point, with what is said to it. tolerance: as a target's."""

    x: Expression
    y: Expression
    tolerance: Expression | tuple[Expression, Expression]
    says: str


@dataclass(frozen=True, slots=True)
class Height:
    """Where a line or curve is read off as it moves: its height at `at`, named by a template."""

    at: Expression
    name: str
    unit: str = ""
    digits: int = 1


@dataclass(frozen=True, slots=True)
class PointsPart:
    """Place points on a grid or figure.

    kind select_point and position_object: targets in any order. graph: what `draws` says. arrows:
    each target is the end of an arrow that begins where the one before ends, in order; the first
    begins at `start`. line: a straight line through the points. tide: half a cosine from each
    point to the next, from low to high water or back. readings: unit and sign for the length and
    direction of arrows, shown as they move. heights: of a line or a curve.
    """

    id: str
    x: Axis
    y: Axis
    targets: tuple[Target, ...]
    kind: Literal["select_point", "position_object", "graph"]
    label: str = ""
    figure: Figure | None = None
    draws: Draws = "arrows"
    start: tuple[Expression, Expression] = (0.0, 0.0)
    readings: tuple[str, str] | None = None
    heights: tuple[Height, ...] = ()
    object: str = ""
    near_misses: tuple[Misplaced, ...] = ()


@dataclass(frozen=True, slots=True)
class ShadingPart:
    """Shade cells of a grid. answer: how many."""

    id: str
    rows: int
    columns: int
    answer: Expression
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    kind: Literal["grid_shading"] = "grid_shading"


@dataclass(frozen=True, slots=True)
class Place:
    """A place in the axes' units and how far from it still counts.

    reach: a radius, or half a width and half a height. said: its name, or what is said to it.
    """

    x: float
    y: float
    reach: float | tuple[float, float]
    said: str

    def away(self, x: float, y: float) -> float:
        """Distance of a point in reaches: up to 1 is within."""
        across, up = abs(x - self.x), abs(y - self.y)
        if isinstance(self.reach, tuple):
            return max(_in_reaches(across, self.reach[0]), _in_reaches(up, self.reach[1]))
        return _in_reaches((across**2 + up**2) ** 0.5, self.reach)


def _in_reaches(distance: float, reach: float) -> float:
    return max(0.0, distance - 1e-9) / max(reach, 1e-9)


@dataclass(frozen=True, slots=True)
class KeyHeight:
    """A height to read off in this version."""

    at: float
    name: str
    unit: str
    digits: int


@dataclass(frozen=True, slots=True)
class PointsKey:
    """Points to place: in any order, or for arrows as a chain from `start`."""

    id: str
    label: str
    kind: Literal["select_point", "position_object", "graph"]
    x: Axis
    y: Axis
    targets: tuple[Place, ...]
    draws: Draws
    start: tuple[float, float]
    readings: tuple[str, str] | None
    heights: tuple[KeyHeight, ...]
    object: str
    near_misses: tuple[Place, ...]
    figure: Picture | None = None

    @property
    def in_order(self) -> bool:
        """Whether the first point given belongs to the first target."""
        return self.kind == "graph" and self.draws == "arrows"


@dataclass(frozen=True, slots=True)
class ShadingKey:
    """A grid of which `answer` cells are to be shaded."""

    id: str
    label: str
    rows: int
    columns: int
    answer: int
    near_misses: tuple[KeyedNearMiss, ...] = ()


def _reach(
    tolerance: Expression | tuple[Expression, Expression], number: Number
) -> float | tuple[float, float]:
    if isinstance(tolerance, tuple):
        return number(tolerance[0]), number(tolerance[1])
    return number(tolerance)


def make_points(
    part: PointsPart, number: Number, text: Text, figure: Callable[[Figure], Picture]
) -> PointsKey:
    """Key of points. number, text, figure: work an expression, a template, a drawing out."""
    targets = tuple(
        Place(number(t.x), number(t.y), _reach(t.tolerance, number), text(t.name))
        for t in part.targets
    )
    misses = tuple(
        Place(number(m.x), number(m.y), _reach(m.tolerance, number), text(m.says))
        for m in part.near_misses
    )
    heights = tuple(KeyHeight(number(r.at), text(r.name), r.unit, r.digits) for r in part.heights)
    return PointsKey(
        part.id,
        text(part.label),
        part.kind,
        part.x,
        part.y,
        targets,
        part.draws,
        (number(part.start[0]), number(part.start[1])),
        part.readings,
        heights,
        part.object,
        misses,
        None if part.figure is None else figure(part.figure),
    )


def make_shading(part: ShadingPart, number: Number, text: Text) -> ShadingKey:
    """Key of a grid to shade. ExpressionError when it has not so many cells."""
    count = round(number(part.answer))
    if not 0 < count <= part.rows * part.columns:
        raise ExpressionError(f"{count} cells cannot be shaded")
    misses = tuple(KeyedNearMiss(number(m.answer), text(m.says)) for m in part.near_misses)
    return ShadingKey(part.id, text(part.label), part.rows, part.columns, count, misses)
