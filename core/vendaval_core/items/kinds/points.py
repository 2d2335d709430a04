"""Marks of parts answered on a grid or a figure: points, arrows, lines, curves, shaded cells."""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from ..mark import PartMark, lines, shared, unreadable
from ..plane import PointsKey, ShadingKey

Point = tuple[float, float]


def read_points(key: PointsKey, response: str) -> list[Point] | str:
    """Points in the axes' units, or why they cannot be read."""
    found = []
    for line in lines(response):
        first, _, second = line.partition(" ")
        try:
            x, y = float(first), float(second)
        except ValueError:
            return "That is not a place on the grid."
        if not (key.x.low <= x <= key.x.high and key.y.low <= y <= key.y.high):
            return "That lies outside the grid."
        found.append((x, y))
    wanted = len(key.targets)
    if len(found) != wanted:
        return f"{len(found)} of {wanted} placed." if len(found) < wanted else f"Place {wanted}."
    if key.draws != "arrows" and len({x for x, _ in found}) < wanted:
        return "Two points stand one above the other. Move one sideways."
    return found


def height_at(key: PointsKey, points: Sequence[Point], x: float) -> float | None:
    """Height of the line or curve through points at x, None where it is not drawn.

    A line of two points goes on to both sides. A tide is half a cosine from each point to the
    next: the usual stand-in for a curve of the port (common practice, no published source).
    """
    known = sorted(points)
    if key.draws == "line" and len(known) == 2:
        (x1, y1), (x2, y2) = known
        return y1 + (y2 - y1) * (x - x1) / (x2 - x1)
    for (x1, y1), (x2, y2) in pairwise(known):
        if x1 <= x <= x2:
            part = (x - x1) / (x2 - x1)
            if key.draws == "tide":
                part = (1 - math.cos(math.pi * part)) / 2
            return y1 + (y2 - y1) * part
    return None


def hits(key: PointsKey, points: Sequence[Point]) -> list[bool]:
    """Which targets were met: one point each; in order for arrows, else in any."""
    left = list(points)
    found = []
    for number, target in enumerate(key.targets):
        candidates = [points[number]] if key.in_order else left
        near = min(candidates, key=lambda p: target.away(*p), default=None)
        met = near is not None and target.away(*near) <= 1
        if met and near in left:
            left.remove(near)
        found.append(met)
    return found


def mark_points(key: PointsKey, response: str) -> PartMark:
    """Points or arrows, each target worth a share."""
    points = read_points(key, response)
    if isinstance(points, str):
        return unreadable(points)
    met = sum(hits(key, points))
    says = None
    if met < len(key.targets):
        foreseen = (m.said for m in key.near_misses if any(m.away(*p) <= 1 for p in points))
        says = next(foreseen, None)
    ordered = points if key.in_order else sorted(points)
    canonical = "\n".join(f"{x:g} {y:g}" for x, y in ordered)
    return shared(Fraction(met, len(key.targets)), canonical, says, of=len(key.targets))


def mark_shading(key: ShadingKey, response: str) -> PartMark:
    """Shaded cells: their number counts, not which."""
    cells = set()
    for line in lines(response):
        row, _, column = line.partition(" ")
        if not (row.isascii() and row.isdigit() and column.isascii() and column.isdigit()):
            return unreadable("That is not a cell of the grid.")
        if int(row) >= key.rows or int(column) >= key.columns:
            return unreadable("That is not a cell of the grid.")
        cells.add((int(row), int(column)))
    if not cells:
        return unreadable("No cell is shaded yet.")
    count = len(cells)
    says = next((m.says for m in key.near_misses if m.value == count), None)
    if says is None and count == key.rows * key.columns - key.answer:
        says = "You have shaded the part that should stay clear."
    right = count == key.answer
    return shared(Fraction(int(right)), str(count), None if right else says)
