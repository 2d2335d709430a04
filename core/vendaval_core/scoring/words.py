"""Responses and right answers in words, and side by side piece by piece."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence

from ..items.expressions import clock, fixed
from ..items.keys import (
    AssociateKey,
    CellKey,
    ChoiceKey,
    ExpressionKey,
    NumberKey,
    OrderKey,
    PartKey,
    SlotsKey,
    TableKey,
    TextKey,
    TimeKey,
    WrittenKey,
)
from ..items.kinds.choice import read_pairs, read_slots
from ..items.kinds.number import mark_cell, read_cells
from ..items.kinds.points import Point, hits, read_points
from ..items.mark import Piece, Verdict, lines
from ..items.plane import PointsKey, ShadingKey

NOTHING = "nothing"
_EMPHASIS = re.compile(r"(\*\*|\*)(\S(?:.*?\S)?)\1")


def _with_unit(typed: str, unit: str) -> str:
    if not unit or not typed[-1:].isdigit():
        return typed
    return typed + ("" if unit in {"°", "′"} else "\u00a0") + unit


def _cell_right(key: CellKey) -> str:
    return key.accepted[0] if isinstance(key, TextKey) else key.shown


def point_words(key: PointsKey, x: float, y: float) -> str:
    """A point in the axes' units, a time as a time."""
    return ", ".join(
        clock(value) if axis.clock else f"{value:g}" for axis, value in ((key.x, x), (key.y, y))
    )


def _arrow(key: PointsKey, x: float, y: float, before: tuple[float, float]) -> str:
    """A point, or for an arrow that is read off its length and direction."""
    if key.readings is None:
        return point_words(key, x, y)
    east, north = x - before[0], y - before[1]
    length, direction = math.hypot(east, north), math.degrees(math.atan2(east, north)) % 360
    return f"{fixed(length, 1)} {key.readings[0]}, {round(direction) % 360:03d}°"


def _named(texts: Mapping[str, str], ids: list[str]) -> str:
    return ", ".join(texts.get(id_, NOTHING) for id_ in ids) or NOTHING


def right_words(key: PartKey) -> str:
    """The right answer in words."""
    match key:
        case ChoiceKey():
            return ", ".join(choice.text for choice in key.right)
        case NumberKey() | TimeKey() | TextKey():
            return _cell_right(key)
        case ExpressionKey():
            return key.answer
        case ShadingKey():
            return f"{key.answer} of {key.rows * key.columns} cells"
        case WrittenKey():
            return key.model
        case _:
            return "; ".join(_joined(piece.label, piece.right) for piece in pieces(key, ""))


def _joined(label: str, text: str) -> str:
    return f"{label}: {text}" if label else text


def answer_words(key: PartKey, response: str) -> str:
    """A response in words: a choice's text, or what was typed with its unit."""
    match key:
        case ChoiceKey():
            texts = {choice.id: choice.text for choice in key.choices}
            return _named(texts, lines(response)) if response.strip() else ""
        case NumberKey(unit=unit):
            return _with_unit(response.strip(), unit)
        case ShadingKey():
            return f"{len(lines(response))} of {key.rows * key.columns} cells"
        case WrittenKey(kind="extended_text"):
            return _EMPHASIS.sub(r"\2", response.strip())
        case TimeKey() | TextKey() | ExpressionKey() | WrittenKey():
            return response.strip()
        case _:
            found = [_joined(p.label, p.given) for p in pieces(key, response)]
            return "; ".join(found)


def same_answer(key: PartKey, response: str, canonical: str) -> str:
    """What tells an answer from others, however its choices stand: letters belong to one order
    only, so choices are told by what they say. canonical: the response as it was read."""
    if isinstance(key, ChoiceKey | OrderKey | SlotsKey | AssociateKey):
        return answer_words(key, response)
    return canonical


def pieces(key: PartKey, response: str) -> list[Piece]:
    """A part's pairs, cells, gaps or points, given beside right; none for other kinds."""
    match key:
        case OrderKey():
            texts = {item.id: item.text for item in key.items}
            given = lines(response) + [""] * len(key.right)
            return [
                Piece(str(i + 1), texts.get(given[i], NOTHING), texts[right], given[i] == right)
                for i, right in enumerate(key.right)
            ]
        case SlotsKey():
            return _slot_pieces(key, response)
        case AssociateKey():
            return _pair_pieces(key, response)
        case TableKey():
            typed = read_cells(response)
            return [
                Piece(
                    _cell_place(key, cell),
                    typed.get(cell.id, NOTHING),
                    _cell_right(cell),
                    mark_cell(cell, typed.get(cell.id, "")).verdict is Verdict.RIGHT,
                )
                for cell in key.cells
            ]
        case PointsKey():
            return _point_pieces(key, response)
        case _:
            return []


def _cell_place(key: TableKey, cell: CellKey) -> str:
    if cell.label:
        return cell.label
    for label, row in key.rows:
        if cell in row:
            return f"{label}, {key.columns[row.index(cell) + 1]}".strip(", ")
    return cell.id


def _slot_pieces(key: SlotsKey, response: str) -> list[Piece]:
    texts = {token.id: token.text for token in key.tokens}
    read = read_slots(key, response)
    found = read if isinstance(read, dict) else {}
    return [
        Piece(
            slot.text or f"gap {number}",
            texts.get(found.get(slot.id, ""), NOTHING),
            texts[slot.right],
            found.get(slot.id) == slot.right,
        )
        for number, slot in enumerate(key.slots, start=1)
    ]


def _pair_pieces(key: AssociateKey, response: str) -> list[Piece]:
    texts = {item.id: item.text for item in key.items}
    read = read_pairs(key, response)
    given = read if isinstance(read, set) else set()
    partner = dict(given) | {b: a for a, b in given}
    return [
        Piece(texts[a], texts.get(partner.get(a, ""), NOTHING), texts[b], (a, b) in given)
        for a, b in sorted(key.pairs)
    ]


def _by_target(key: PointsKey, points: Sequence[Point]) -> list[Point]:
    left, found = list(points), []
    for target in key.targets:
        near = min(left, key=lambda p: target.away(*p))
        left.remove(near)
        found.append(near)
    return found


def _point_pieces(key: PointsKey, response: str) -> list[Piece]:
    """Targets beside the points given for them; where any order is right, the nearest."""
    read = read_points(key, response)
    points = read if isinstance(read, list) else []
    if points and not key.in_order:
        points = _by_target(key, points)
    met = hits(key, points) if points else [False] * len(key.targets)
    rows = []
    before, right_before = key.start, key.start
    for number, target in enumerate(key.targets):
        given = NOTHING
        if number < len(points):
            given = _arrow(key, *points[number], before)
            before = points[number]
        right = _arrow(key, target.x, target.y, right_before)
        right_before = (target.x, target.y)
        rows.append(Piece(target.said or f"point {number + 1}", given, right, met[number]))
    return rows
