"""What a version shows and keys whatever kind its parts are: pictures, places on them, foreseen
wrong answers; and figures as their author draws them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Expression = str | float


@dataclass(frozen=True, slots=True)
class KeyedNearMiss:
    """A foreseen wrong answer of this version: a number, minutes, or a text."""

    value: float | str
    says: str


@dataclass(frozen=True, slots=True)
class KeyedMixUp:
    """Two things of a part that people mix up, by ids: an item before another, a token in a
    place, two items joined."""

    place: str
    token: str
    says: str


@dataclass(frozen=True, slots=True)
class Shape:
    """Place on a figure: circle (x, y, r) or rect (x, y, w, h), in the figure's units."""

    shape: Literal["circle", "rect"]
    numbers: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Slider:
    """What moves a figure: a variable from low to high in steps, first at `start`."""

    name: str
    label: str
    low: Expression
    high: Expression
    step: Expression
    start: Expression


@dataclass(frozen=True, slots=True)
class Figure:
    """A drawing with `[[ ]]` slots: SVG without scripts. alt: what it shows, in words.

    A figure that moves has a slider; values: expressions worked out anew at each of its steps;
    says: what is read off there.
    """

    svg: str
    alt: str
    slider: Slider | None = None
    values: tuple[tuple[str, Expression], ...] = ()
    says: str = ""


@dataclass(frozen=True, slots=True)
class Frame:
    """A moving figure at one step, and what is read off there."""

    svg: str
    says: str


@dataclass(frozen=True, slots=True)
class Picture:
    """A figure of this version. A moving one has frames; `svg` is that at `start`."""

    svg: str
    alt: str
    label: str = ""
    start: int = 0
    frames: tuple[Frame, ...] = ()
