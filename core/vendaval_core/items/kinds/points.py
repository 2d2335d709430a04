"""Place points on a grid or a figure: alone, as arrows, as a line, as a tide curve.

QTI 3 select point and position object interactions, and our own graph. Areas are a circle or a
rectangle round the point, as QTI 3's area mapping has them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from pydantic import BaseModel, Field, model_validator

from vendaval_core.language import gettext

from ..drawn import Picture
from ..expressions import evaluate_number, fixed
from ..fields import Expression, FigureModel, Strict, Text, Values
from ..mark import PartMark, Piece, incomplete, lines, shared, unreadable
from ..presented import FigureOut, Html, PartOut, PointOut, figure_out
from ..randomness import SeededStream
from ..template import fill
from .common import (
    NOTHING,
    Canonical,
    MarkedByRule,
    NotChosen,
    NotTyped,
    WrongAsExample,
    pieces_in_words,
)
from .plane import Axis, AxisModel, AxisOut, Place, Point, Tolerance, height_at, reach_of
from .protocol import Examples, Foreseen, Part

Kind = Literal["select_point", "position_object", "graph"]
Draws = Literal["arrows", "line", "tide"]


class TargetModel(Strict):
    """Where a point must go. `tolerance`: a distance, or one across and one up where the axes have
    different units."""

    x: Expression
    y: Expression
    tolerance: Tolerance
    name: str = ""


class MisplacedModel(Strict):
    """A foreseen wrong place. `tolerance`: that of the first target when left out."""

    x: Expression
    y: Expression
    tolerance: Tolerance | None = None
    says: Text


class HeightModel(Strict):
    """A height to read off a line or curve as it moves, at `at` on the x axis."""

    at: Expression
    name: Text
    unit: str = ""
    digits: int = Field(default=1, ge=0, le=3)


class PointsPart(Part):
    """graph: what `draws` says: arrows (each from the end of the one before; `readings: [M, °]`
    shows length in that unit and direction while one is moved), a straight line, or a tide (half
    a cosine from each point to the next); `heights` are shown of the last two. The other kinds
    take their targets in any order."""

    kind: Kind
    x: AxisModel
    y: AxisModel
    targets: list[TargetModel] = Field(min_length=1, max_length=6)
    figure: FigureModel | None = None
    draws: Draws = "arrows"
    start: tuple[Expression, Expression] = (0.0, 0.0)
    readings: tuple[str, str] | None = None
    heights: list[HeightModel] = Field(default=[], max_length=4)
    object: str = ""
    near_misses: list[MisplacedModel] = []

    @model_validator(mode="after")
    def drawn_as_said(self) -> PointsPart:
        curved = self.kind == "graph" and self.draws != "arrows"
        if self.draws != "arrows" and self.kind != "graph":
            raise ValueError(gettext("only a graph draws a line or a tide"))
        if curved and len(self.targets) < 2:
            raise ValueError(gettext("a line or a tide goes through two points at least"))
        if self.heights and not curved:
            raise ValueError(gettext("heights belong to a line or a tide"))
        if self.readings and (self.kind != "graph" or curved):
            raise ValueError(gettext("readings belong to arrows"))
        return self

    def key(self, values: Values, stream: SeededStream) -> PointsKey:
        def number(expression: Expression) -> float:
            return evaluate_number(expression, values)

        def place(x: Expression, y: Expression, tolerance: Tolerance, said: str) -> Place:
            reach = reach_of(tolerance, values)
            return Place(number(x), number(y), reach, fill(said, values))

        usual = self.targets[0].tolerance
        return PointsKey(
            self.id,
            fill(self.label, values),
            self.kind,
            self.x.to_core(),
            self.y.to_core(),
            tuple(place(t.x, t.y, t.tolerance, t.name) for t in self.targets),
            self.draws,
            (number(self.start[0]), number(self.start[1])),
            self.readings,
            tuple(
                KeyHeight(number(h.at), fill(h.name, values), h.unit, h.digits)
                for h in self.heights
            ),
            self.object,
            tuple(place(m.x, m.y, m.tolerance or usual, m.says) for m in self.near_misses),
            None if self.figure is None else self.figure.picture(values),
        )


@dataclass(frozen=True, slots=True)
class KeyHeight:
    """A height to read off in this version."""

    at: float
    name: str
    unit: str
    digits: int


@dataclass(frozen=True, slots=True)
class PointsKey(WrongAsExample, MarkedByRule, NotTyped, NotChosen, Canonical):
    """Points to place: in any order, or for arrows as a chain from `start`. A response is a line
    `x y` for each point, in the axes' units."""

    id: str
    label: str
    kind: Kind
    x: Axis
    y: Axis
    targets: tuple[Place, ...]
    draws: Draws
    start: Point
    readings: tuple[str, str] | None
    heights: tuple[KeyHeight, ...]
    object: str
    near_misses: tuple[Place, ...]
    figure: Picture | None = None

    @property
    def in_order(self) -> bool:
        """Whether the first point given belongs to the first target."""
        return self.kind == "graph" and self.draws == "arrows"

    @property
    def units(self) -> int:
        return len(self.targets)

    @property
    def guess_chance(self) -> float:
        return 0.0

    @property
    def examples(self) -> Examples:
        right = [f"{target.x:.6g} {target.y:.6g}" for target in self.targets]
        far = [self._far_from(number) for number in range(len(self.targets))]
        several = len(right) > 1
        return Examples(
            "\n".join(right),
            "\n".join(far),
            "\n".join([right[0], *far[1:]]) if several else None,
            "here",
        )

    def _far_from(self, number: int) -> str:
        """A place in another corner than a target, apart from those for the others."""
        target, aside = self.targets[number], number * self.x.step
        right_half = target.x > (self.x.low + self.x.high) / 2
        x = self.x.low + aside if right_half else self.x.high - aside
        y = self.y.low if target.y > (self.y.low + self.y.high) / 2 else self.y.high
        return f"{x:.6g} {y:.6g}"

    def read(self, response: str) -> list[Point] | str:
        """Points in the axes' units, some still to be placed; or why they cannot be read."""
        found = []
        for line in lines(response):
            first, _, second = line.partition(" ")
            try:
                x, y = float(first), float(second)
            except ValueError:
                return gettext("That isn’t on the grid.")
            if not (self.x.holds(x) and self.y.holds(y)):
                return gettext("That is outside the grid.")
            found.append((x, y))
        wanted = len(self.targets)
        if len(found) > wanted:
            return gettext("Place {wanted}.").format(wanted=wanted)
        if self.draws != "arrows" and len({x for x, _ in found}) < len(found):
            return gettext("Two points are one above the other. Move one sideways.")
        return found

    def mark(self, response: str) -> PartMark:
        points = self.read(response)
        if isinstance(points, str):
            return unreadable(points)
        met = sum(self.hits(points))
        says = None
        if met < len(self.targets):
            foreseen = (m.said for m in self.near_misses if any(m.away(*p) <= 1 for p in points))
            says = next(foreseen, None)
        ordered = points if self.in_order else sorted(points)
        canonical = "\n".join(f"{x:g} {y:g}" for x, y in ordered)
        share, wanted = Fraction(met, len(self.targets)), len(self.targets)
        if len(points) < wanted:
            placed = gettext("You have placed {count} of {wanted}.")
            why = placed.format(count=len(points), wanted=wanted)
            return incomplete(why, share, canonical, wanted)
        return shared(share, canonical, says, of=wanted)

    def hits(self, points: Sequence[Point]) -> list[bool]:
        """Which targets were met: one point each; in order for arrows, else in any."""
        left = list(points)
        found = []
        for number, target in enumerate(self.targets):
            candidates = points[number : number + 1] if self.in_order else left
            near = min(candidates, key=lambda p: target.away(*p), default=None)
            met = near is not None and target.away(*near) <= 1
            if met and near in left:
                left.remove(near)
            found.append(met)
        return found

    def height_at(self, points: Sequence[Point], x: float) -> float | None:
        """Height of the line or curve through points at x, None where it is not drawn."""
        return height_at(points, x, line=self.draws == "line", tide=self.draws == "tide")

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        """Targets beside the points given for them; where any order is right, the nearest."""
        read = self.read(response)
        points = list[Point]() if isinstance(read, str) else read
        if points and not self.in_order:
            points = self._by_target(points)
        met = self.hits(points) if points else [False] * len(self.targets)
        rows = []
        before, right_before = self.start, self.start
        for number, target in enumerate(self.targets):
            given = NOTHING
            if number < len(points):
                given = self._in_words(points[number], before)
                before = points[number]
            right = self._in_words((target.x, target.y), right_before)
            right_before = (target.x, target.y)
            rows.append(
                Piece(
                    target.said or gettext("point {number}").format(number=number + 1),
                    given,
                    right,
                    met[number],
                )
            )
        return rows

    def _by_target(self, points: Sequence[Point]) -> list[Point]:
        left, found = list(points), []
        for target in self.targets:
            near = min(left, key=lambda p: target.away(*p), default=None)
            if near is not None:
                left.remove(near)
                found.append(near)
        return found

    def _point_words(self, x: float, y: float) -> str:
        """A point in the axes' units, a time as a time."""
        return f"{self.x.said(x)}, {self.y.said(y)}"

    def _in_words(self, point: Point, before: Point) -> str:
        """A point, or for an arrow that is read off its length and direction."""
        if self.readings is None:
            return self._point_words(*point)
        east, north = point[0] - before[0], point[1] - before[1]
        length, direction = math.hypot(east, north), math.degrees(math.atan2(east, north)) % 360
        return f"{fixed(length, 1)} {self.readings[0]}, {round(direction) % 360:03d}°"

    def right_points(self) -> Sequence[Point]:
        return [(target.x, target.y) for target in self.targets]

    def foreseen(self) -> Iterator[Foreseen]:
        """Each foreseen place for one point, with the others anywhere else."""
        for miss in self.near_misses:
            spare = [
                (self.x.low + i * self.x.step, self.y.low) for i in range(len(self.targets) - 1)
            ]
            places = [(miss.x, miss.y), *spare]
            response = "\n".join(f"{x:.6f} {y:.6f}" for x, y in places)
            yield Foreseen(self._point_words(miss.x, miss.y), response, miss.said)

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (target.said for target in self.targets)
        yield from (miss.said for miss in self.near_misses)
        yield from (height.name for height in self.heights)

    def faults(self) -> Iterator[str]:
        for target in self.targets:
            if not self.x.holds(target.x) or not self.y.holds(target.y):
                yield gettext("target {x:g}, {y:g} lies outside the grid").format(
                    x=target.x, y=target.y
                )
        for what, places in (("target", self.targets), (gettext("near miss"), self.near_misses)):
            for place in places:
                if place.away(self.x.snapped(place.x), self.y.snapped(place.y)) > 1:
                    yield gettext("no point of the grid comes near to {what} {x:g}, {y:g}").format(
                        what=what, x=place.x, y=place.y
                    )
        for place in self.near_misses:
            if any(target.away(place.x, place.y) <= 1 for target in self.targets):
                yield gettext("near miss {x:g}, {y:g} is right").format(x=place.x, y=place.y)

    def presented(self, html: Html) -> PointsPartOut:
        return PointsPartOut(
            kind=self.kind,
            id=self.id,
            label=self.label,
            x=self.x.presented(),
            y=self.y.presented(),
            count=len(self.targets),
            names=[target.said for target in self.targets],
            draws=self.draws,
            start=PointOut(x=self.start[0], y=self.start[1]),
            readings=self.readings[0] if self.readings else None,
            heights=[
                HeightOut(at=h.at, name=h.name, unit=h.unit, digits=h.digits) for h in self.heights
            ],
            object=self.object,
            figure=figure_out(self.figure),
        )


class HeightOut(BaseModel):
    at: float
    name: str
    unit: str
    digits: int


class PointsPartOut(PartOut):
    """`count`: points to place. `draws`: what a graph makes of them. `readings`: unit in which an
    arrow's length is read. `heights`: of a line or a curve."""

    kind: Kind
    x: AxisOut
    y: AxisOut
    count: int
    names: list[str]
    start: PointOut
    draws: Draws
    readings: str | None
    heights: list[HeightOut]
    object: str
    figure: FigureOut | None

    def any_response(self) -> str:
        points = ((self.x.low + n * self.x.step, self.y.low) for n in range(self.count))
        return "\n".join(f"{x:g} {y:g}" for x, y in points)
