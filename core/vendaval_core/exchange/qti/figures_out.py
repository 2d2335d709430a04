"""Figures as files of a package: SVG as it is drawn, planes and grids drawn for other players."""

from __future__ import annotations

import hashlib
import math
import wave
from collections.abc import Sequence
from dataclasses import dataclass
from io import BytesIO
from xml.sax.saxutils import escape

from ...items.drawn import Picture, Shape
from ...items.kinds.plane import BOARD_MARGIN, BOARD_WIDE, Axis, board_high
from ...items.kinds.points import PointsKey
from ...items.processing.nodes import Node, h, read_xml
from ...items.svg import svg_of

RATE = 8_000
SECONDS = {"short": 1.0, "long": 4.5, "gap": 1.6, "bell": 1.5, "gong": 2.5}
PITCH = {"short": 240, "long": 240, "gap": 0, "bell": 880, "gong": 180}
SIDE, MARGIN = 480.0, 48.0


@dataclass(frozen=True, slots=True)
class Drawn:
    """A picture's file, and its size in its own units, from `left` and `top`."""

    name: str
    content: bytes
    alt: str
    left: float
    top: float
    wide: float
    high: float

    def image(self) -> Node:
        """It as an element."""
        size = {"width": f"{self.wide:g}", "height": f"{self.high:g}"}
        return h("img", src=self.name, alt=self.alt, **size)


def drawn(picture: Picture) -> Drawn:
    """Return a figure's file."""
    return _file(picture.svg, picture.alt)


def _file(svg: str, alt: str) -> Drawn:
    box = read_xml(svg).get("view-box").replace(",", " ").split()
    left, top, wide, high = (float(one) for one in box)
    # A picture in a file of its own has no page whose colour it could take.
    content = svg.replace("currentColor", "#1b2733").encode()
    name = f"images/{hashlib.sha256(content).hexdigest()[:16]}.svg"
    return Drawn(name, content, alt, left, top, wide, high)


def coords(shape: Shape, on: Drawn) -> tuple[str, str]:
    """Return a place as QTI writes it: shape, and coordinates in the picture's pixels."""
    x, y, *rest = shape.numbers
    x, y = x - on.left, y - on.top
    if shape.shape == "circle":
        return "circle", _numbers([x, y, rest[0]])
    return "rect", _numbers([x, y, x + rest[0], y + rest[1]])


def _numbers(values: Sequence[float]) -> str:
    return ",".join(f"{round(value, 3):g}" for value in values)


@dataclass(frozen=True, slots=True)
class Plane:
    """A plane as a picture, and how its units become pixels."""

    x: Axis
    y: Axis
    across: float
    up: float
    margin: float

    @classmethod
    def of(cls, key: PointsKey) -> Plane:
        """The plane of a part. Points that can be put are whole pixels apart; under a figure it
        lies where the player draws it."""
        if key.figure is None:
            return cls(key.x, key.y, _per_unit(key.x), _per_unit(key.y), MARGIN)
        across = (BOARD_WIDE - 2 * BOARD_MARGIN) / (key.x.high - key.x.low)
        up = (board_high(key.x, key.y) - 2 * BOARD_MARGIN) / (key.y.high - key.y.low)
        return cls(key.x, key.y, across, up, BOARD_MARGIN)

    def pixel(self, x: float, y: float) -> tuple[float, float]:
        """Where a point lies in the picture."""
        return (
            round(self.margin + (x - self.x.low) * self.across, 6),
            round(self.margin + (self.y.high - y) * self.up, 6),
        )

    def place(self, x: float, y: float, reach: float | tuple[float, float]) -> tuple[str, str]:
        """A place with its reach, as QTI writes it. A hair wider: edges count."""
        across, down = self.pixel(x, y)
        if isinstance(reach, tuple):
            wide, high = reach[0] * self.across + 1e-6, reach[1] * self.up + 1e-6
            ends = (across - wide, down - high, across + wide, down + high)
            return "rect", ",".join(f"{end:.7g}" for end in ends)
        wide, high = reach * self.across + 1e-6, reach * self.up + 1e-6
        if self.across == self.up:
            return "circle", f"{across:.7g},{down:.7g},{wide:.7g}"
        return "ellipse", f"{across:.7g},{down:.7g},{wide:.7g},{high:.7g}"

    def drawn(self, alt: str, under: Picture | None = None) -> Drawn:
        """The plane as a picture, over the figure that it has."""
        margin = self.margin
        wide = 2 * margin + (self.x.high - self.x.low) * self.across
        high = 2 * margin + (self.y.high - self.y.low) * self.up
        left, right, top, foot = margin, wide - margin, margin, high - margin
        lines = [] if under is None else [_nested(under, wide, high)]
        for value in _marks(self.x):
            at = self.pixel(value, self.y.low)[0]
            lines.append(_line(at, top, at, foot) + _words(at, foot + 18, self.x.said(value)))
        for value in _marks(self.y):
            at = self.pixel(self.x.low, value)[1]
            lines.append(_line(left, at, right, at) + _words(left - 22, at + 4, self.y.said(value)))
        lines.append(_words((left + right) / 2, high - 8, self.x.name))
        lines.append(_words((left + right) / 2, 20, self.y.name))
        return _file(svg_of("".join(lines), wide, high), alt)


def _nested(picture: Picture, wide: float, high: float) -> str:
    """A figure inside another picture."""
    box = read_xml(picture.svg).get("view-box")
    inner = picture.svg[picture.svg.index("<svg") + 4 :]
    size = f'x="0" y="0" width="{wide:g}" height="{high:g}" preserveAspectRatio="none"'
    return f"<svg {size}{inner}" if box else ""


def _per_unit(axis: Axis) -> float:
    steps = max(1.0, (axis.high - axis.low) / axis.step)
    return max(1.0, math.floor(SIDE / steps)) / axis.step


def _marks(axis: Axis) -> list[float]:
    count = min(60, int((axis.high - axis.low) / axis.mark + 1e-9))
    return [axis.low + place * axis.mark for place in range(count + 1)]


def _line(x1: float, y1: float, x2: float, y2: float) -> str:
    ends = f'x1="{x1:g}" y1="{y1:g}" x2="{x2:g}" y2="{y2:g}"'
    return f'<line {ends} stroke="currentColor" stroke-width="0.6"/>'


def _words(x: float, y: float, text: str) -> str:
    said = escape(text)
    return f'<text x="{x:g}" y="{y:g}" font-size="12" text-anchor="middle">{said}</text>'


def grid(rows: int, columns: int, cell: float = 40.0) -> Drawn:
    """Return a grid of cells as a picture."""
    wide, high = columns * cell, rows * cell
    cells = [
        f'<rect x="{column * cell:g}" y="{row * cell:g}" width="{cell:g}" height="{cell:g}"'
        ' fill="none" stroke="currentColor"/>'
        for row in range(rows)
        for column in range(columns)
    ]
    return _file(svg_of("".join(cells), wide, high), f"{rows} × {columns}")


def blank(wide: float = 640.0, high: float = 400.0) -> Drawn:
    """Return an empty sheet to draw on."""
    sheet = f'<rect x="0" y="0" width="{wide:g}" height="{high:g}" fill="white"/>'
    return _file(svg_of(sheet, wide, high), "")


def blasts(sound: Sequence[str]) -> tuple[str, bytes]:
    """Return the name and the content of a sound of blasts."""
    samples = bytearray()
    for blast in sound:
        count = int(RATE * SECONDS.get(blast, 1.0))
        turn = math.tau * PITCH.get(blast, 240) / RATE
        samples += bytes(128 + int(90 * math.sin(i * turn)) for i in range(count))
        samples += bytes([128]) * RATE
    file = BytesIO()
    with wave.open(file, "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(1)
        out.setframerate(RATE)
        out.writeframes(bytes(samples))
    return f"sounds/{'-'.join(sound)}.wav", file.getvalue()
