"""Marks of parts answered on a grid or a figure: points, arrows, shaded cells."""

from __future__ import annotations

import math
from fractions import Fraction

from ..items.keys import PointsKey, ShadingKey
from .mark import PartMark, lines, shared, unreadable


def read_points(key: PointsKey, response: str) -> list[tuple[float, float]] | str:
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
    return found


def hits(key: PointsKey, points: list[tuple[float, float]]) -> list[bool]:
    """Which targets were met: one point each; in order for a graph, else in any."""
    left = list(points)
    found = []
    for number, target in enumerate(key.targets):
        candidates = [points[number]] if key.kind == "graph" else left
        near = min(
            candidates, key=lambda p: math.hypot(p[0] - target.x, p[1] - target.y), default=None
        )
        met = near is not None and (
            math.hypot(near[0] - target.x, near[1] - target.y) <= target.tolerance + 1e-9
        )
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
    ordered = points if key.kind == "graph" else sorted(points)
    canonical = "\n".join(f"{x:g} {y:g}" for x, y in ordered)
    return shared(Fraction(met, len(key.targets)), canonical, of=len(key.targets))


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
    says = None
    if len(cells) == key.rows * key.columns - key.answer and len(cells) != key.answer:
        says = "You have shaded the part that should stay clear."
    return shared(Fraction(int(len(cells) == key.answer)), str(len(cells)), says)
