"""Whether a point lies in a shape, as QTI 3 and HTML's image maps write shapes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from vendaval_core.language import gettext

from .values import ProcessingError

COORDS = {"rect": 4, "circle": 3, "ellipse": 4}


def read_coords(shape: str, text: str, line: int = 0) -> tuple[float, ...]:
    """Return a shape's numbers. ProcessingError for wrong ones."""
    if shape == "default":
        return ()
    try:
        numbers = tuple(float(one.strip().rstrip("%")) for one in text.split(",") if one.strip())
    except ValueError:
        numbers = ()
    poly = shape == "poly" and len(numbers) >= 6 and len(numbers) % 2 == 0
    endless = not all(map(math.isfinite, numbers))
    if endless or (not poly and COORDS.get(shape) != len(numbers)):
        raise ProcessingError(
            gettext("“{text}” are no coordinates of a {shape}").format(
                text=text[:60], shape=shape or "?"
            ),
            line,
        )
    return numbers


def is_inside(shape: str, numbers: Sequence[float], point: tuple[float, float]) -> bool:
    """Return whether a point lies in a shape or on its edge. Polygons by the even-odd rule."""
    x, y = point
    if shape == "default":
        return True
    if shape == "rect":
        left, top, right, bottom = numbers
        return min(left, right) <= x <= max(left, right) and min(top, bottom) <= y <= max(
            top, bottom
        )
    if shape == "circle":
        across, down, radius = numbers
        return (x - across) ** 2 + (y - down) ** 2 <= radius**2 + 1e-9
    if shape == "ellipse":
        across, down, wide, high = numbers
        if not wide or not high:
            return False
        return ((x - across) / wide) ** 2 + ((y - down) / high) ** 2 <= 1 + 1e-9
    corners = list(zip(numbers[::2], numbers[1::2], strict=True))
    if corners[0] != corners[-1]:
        corners.append(corners[0])
    inside = False
    for (x1, y1), (x2, y2) in pairwise(corners):
        if _on_edge(x, y, x1, y1, x2, y2):
            return True
        if (y1 > y) != (y2 > y) and x < (x2 - x1) * (y - y1) / (y2 - y1) + x1:
            inside = not inside
    return inside


def _on_edge(x: float, y: float, x1: float, y1: float, x2: float, y2: float) -> bool:
    cross = (x - x1) * (y2 - y1) - (y - y1) * (x2 - x1)
    between = min(x1, x2) <= x <= max(x1, x2) and min(y1, y2) <= y <= max(y1, y2)
    return between and abs(cross) < 1e-9
