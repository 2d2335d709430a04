"""Axes, places on them, and the lines and curves through points."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from pydantic import BaseModel, Field

from ..expressions import clock, evaluate_number, fixed
from ..fields import Expression, Strict, Values

# A figure covers the board that the player draws: so wide, with this margin around the plane.
BOARD_WIDE, BOARD_MARGIN = 480.0, 34.0
Point = tuple[float, float]
Tolerance = Expression | tuple[Expression, Expression]


class AxisModel(Strict):
    """From `low` to `high`, points snap to `step`, a line every `mark`. `clock: true`: minutes
    after midnight, shown as times of day."""

    low: float
    high: float
    step: float = Field(default=1.0, gt=0)
    mark: float = Field(default=1.0, gt=0)
    name: str = ""
    clock: bool = False

    def to_core(self) -> Axis:
        return Axis(self.low, self.high, self.step, self.mark, self.name, self.clock)


class AxisOut(BaseModel):
    low: float
    high: float
    step: float
    mark: float
    name: str
    clock: bool


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

    def holds(self, value: float) -> bool:
        """Whether a value lies on it."""
        return self.low <= value <= self.high

    def snapped(self, value: float) -> float:
        """The nearest value that a point can be put at."""
        steps = round((value - self.low) / self.step)
        most = int((self.high - self.low) / self.step + 1e-9)
        return self.low + self.step * min(max(steps, 0), most)

    def said(self, value: float) -> str:
        """A value to read: a time, or a number a digit finer than points can be put, without
        noughts at its end. With steps of 0.5, -1.53553 gives −1.54 and -2 gives −2."""
        if self.clock:
            return clock(value)
        digits = next((n for n in range(6) if round(self.step, n) == self.step), 6) + 1
        whole, _, rest = fixed(round(value, digits) or 0.0, digits).partition(".")
        return f"{whole}.{rest}".rstrip("0").rstrip(".")

    def presented(self) -> AxisOut:
        """As the browser draws it."""
        return AxisOut(
            low=self.low,
            high=self.high,
            step=self.step,
            mark=self.mark,
            name=self.name,
            clock=self.clock,
        )


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


def board_high(x: Axis, y: Axis) -> float:
    """Return how high the board is."""
    across = BOARD_WIDE - 2 * BOARD_MARGIN
    ratio = (y.high - y.low) / (x.high - x.low)
    return 2 * BOARD_MARGIN + across * (0.62 if x.clock else min(1.2, max(0.35, ratio)))


def reach_of(tolerance: Tolerance, values: Values) -> float | tuple[float, float]:
    """Return the tolerance of one version."""
    if isinstance(tolerance, tuple):
        return evaluate_number(tolerance[0], values), evaluate_number(tolerance[1], values)
    return evaluate_number(tolerance, values)


def height_at(points: Sequence[Point], x: float, *, line: bool, tide: bool) -> float | None:
    """Return the height at x of a line or curve through points, or None where it is not drawn.

    A line through two points continues on both sides. A tide is half a cosine from each point to
    the next: the usual substitute for a port's curve (common practice, no published source).
    """
    known = sorted(points)
    if line and len(known) == 2:
        (x1, y1), (x2, y2) = known
        return y1 + (y2 - y1) * (x - x1) / (x2 - x1)
    for (x1, y1), (x2, y2) in pairwise(known):
        if x1 <= x <= x2:
            part = (x - x1) / (x2 - x1)
            if tide:
                part = (1 - math.cos(math.pi * part)) / 2
            return y1 + (y2 - y1) * part
    return None
