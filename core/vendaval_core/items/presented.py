"""What the browser may see of a part before it is answered: the pieces that kinds share.

The shape of the API, so pydantic; each kind's own schema stands in its room. No key is in them.
"""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from typing import Literal

from pydantic import BaseModel

from .drawn import Picture, Shape
from .template import kept_together

Html = Callable[[str], str]
_GAP = re.compile(r"\{\{\d+\}\}")


class PartOut(BaseModel, ABC):
    """A part to be answered. `label`: its name where a question has several."""

    kind: str
    id: str
    label: str

    @abstractmethod
    def any_response(self) -> str:
        """Return a response that can be read, from what the browser sees: mostly wrong."""


class FrameOut(BaseModel):
    """A moving figure at one step, and what is read off there."""

    svg: str
    says: str


class MovingOut(BaseModel):
    """What moves a figure: a slider over its frames, first at `start`."""

    label: str
    start: int
    frames: list[FrameOut]


class FigureOut(BaseModel):
    """A drawing with its text alternative. The SVG was checked when the pack was loaded."""

    svg: str
    alt: str
    moving: MovingOut | None


class RegionOut(BaseModel):
    """A place on a figure: circle x, y, r or rect x, y, width, height."""

    shape: Literal["circle", "rect"]
    numbers: list[float]


class TokenOut(BaseModel):
    id: str
    html: str


class PointOut(BaseModel):
    x: float
    y: float


def figure_out(picture: Picture | None) -> FigureOut | None:
    """Return a drawing for the browser, frame by frame if it moves."""
    if picture is None:
        return None
    moving = None
    if picture.frames:
        frames = [FrameOut(svg=f.svg, says=kept_together(f.says)) for f in picture.frames]
        moving = MovingOut(label=picture.label, start=picture.start, frames=frames)
    return FigureOut(svg=picture.svg, alt=picture.alt, moving=moving)


def region_out(shape: Shape | None) -> RegionOut | None:
    """Return a place on a figure for the browser."""
    return None if shape is None else RegionOut(shape=shape.shape, numbers=list(shape.numbers))


def texts_between(text: str, html: Html) -> list[str]:
    """Return the HTML before, between and after the gaps `{{0}}`, `{{1}}` … of a text; [] for no
    text."""
    return [html(piece) if piece else "" for piece in _GAP.split(text)] if text else []


def gaps_missing(text: str, count: int) -> Sequence[str]:
    """Return the gaps from 0 to `count` - 1 that a text does not have, as the author would write
    them."""
    return [gap for i in range(count) if (gap := f"{{{{{i}}}}}") not in text]
