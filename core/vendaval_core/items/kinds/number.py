"""Marks of parts that are typed: numbers, times, short texts, cells of a table."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from fractions import Fraction

from ..drawn import KeyedNearMiss
from ..expressions import fixed
from ..keys import CellKey, NumberKey, TableKey, TextKey, TimeKey
from ..mark import RIGHT, PartMark, Verdict, shared, unreadable
from ..reading import Unreadable, folded, read_number, read_text, read_time, slips_between
from ..units import FACTORS, converted

EPSILON = 1e-9


def _rounded_to(value: float, figures: int) -> float:
    return 0.0 if value == 0 else round(value, figures - 1 - math.floor(math.log10(abs(value))))


def _is_right(key: NumberKey, value: float) -> bool:
    if abs(value - key.answer) <= key.tolerance + EPSILON:
        return True
    if key.figures is None:
        return False
    return math.isclose(
        _rounded_to(value, key.figures), _rounded_to(key.answer, key.figures), rel_tol=1e-12
    )


def _number_says(key: NumberKey, value: float, decimals: int) -> str | None:
    """What a wrong number shows: a foreseen slip, rounding too far, another unit."""
    says = _nearest(key.near_misses, key.tolerance, lambda slip: abs(value - slip))
    if says is not None:
        return says
    if decimals < key.digits and fixed(key.answer, decimals) == fixed(value, decimals):
        places = "1 decimal place" if key.digits == 1 else f"{key.digits} decimal places"
        return f"That is rounded too far. Give {places}."
    for factors in FACTORS.values():
        if key.unit not in factors:
            continue
        for unit in factors:
            other = converted(value, unit, key.unit)
            if unit != key.unit and other is not None and value != 0 and _is_right(key, other):
                return f"The number is right in {unit}. It is asked for in {key.unit}."
    return None


def _nearest(
    misses: Sequence[KeyedNearMiss], tolerance: float, away: Callable[[float], float]
) -> str | None:
    """What the nearest foreseen slip within the tolerance says. away: how far one is."""
    near = [
        (away(miss.value), place)
        for place, miss in enumerate(misses)
        if isinstance(miss.value, float) and away(miss.value) <= tolerance + EPSILON
    ]
    return misses[min(near)[1]].says if near else None


def mark_number(key: NumberKey, response: str) -> PartMark:
    """A number with its unit and tolerance."""
    read = read_number(response, key.unit, angle=key.angle, units=key.units, words=key.words)
    if isinstance(read, Unreadable):
        return unreadable(read.why)
    canonical = repr(read.value)
    if _is_right(key, read.value):
        return PartMark(Verdict.RIGHT, canonical, read.said, RIGHT)
    says = _number_says(key, read.value, read.decimals)
    found = " ".join(text for text in (read.said, says) if text)
    return PartMark(Verdict.WRONG, canonical, found or None)


def mark_time(key: TimeKey, response: str) -> PartMark:
    """A time of day, across midnight too."""
    time = read_time(response)
    if isinstance(time, Unreadable):
        return unreadable(time.why)

    def away(other: float) -> float:
        apart = abs(time - other) % 1440
        return min(apart, 1440 - apart)

    if away(key.answer) <= key.tolerance + EPSILON:
        return PartMark(Verdict.RIGHT, str(time), None, RIGHT)
    return PartMark(Verdict.WRONG, str(time), _nearest(key.near_misses, key.tolerance, away))


def mark_text(key: TextKey, response: str) -> PartMark:
    """A short text with accepted variants and, where the author allows them, slips."""
    read = read_text(response, case=key.case, accents=key.accents)
    if isinstance(read, Unreadable):
        return unreadable(read.why)
    accepted = [folded(text, case=key.case, accents=key.accents) for text in key.accepted]
    if read in accepted:
        return PartMark(Verdict.RIGHT, read, None, RIGHT)
    said = (m.says for m in key.near_misses if folded(str(m.value)) == folded(response))
    says = next(said, None)
    if says is None and key.slips:
        near = [a for a in accepted if slips_between(read, a, key.slips) <= key.slips]
        if near:
            return PartMark(Verdict.RIGHT, read, f"Spelt {key.accepted[0]}.", RIGHT)
    return PartMark(Verdict.WRONG, read, says)


def mark_cell(key: CellKey, response: str) -> PartMark:
    """One cell of a table."""
    match key:
        case NumberKey():
            return mark_number(key, response)
        case TimeKey():
            return mark_time(key, response)
        case TextKey():
            return mark_text(key, response)


def read_cells(response: str) -> dict[str, str]:
    """What was typed by cell id, from lines of `id text`."""
    found = {}
    for line in response.splitlines():
        cell, _, text = line.partition(" ")
        if text.strip():
            found[cell] = text.strip()
    return found


def mark_table(key: TableKey, response: str) -> PartMark:
    """Cells of a table, each worth a share."""
    typed = read_cells(response)
    marks = {cell.id: mark_cell(cell, typed.get(cell.id, "")) for cell in key.cells}
    for cell in key.cells:
        if cell.id not in typed:
            return unreadable(f"{len(key.cells) - len(typed)} cells are still empty.")
        if marks[cell.id].verdict is Verdict.UNREADABLE:
            return unreadable(f"{cell.label or cell.id}: {marks[cell.id].says}")
    hits = sum(mark.verdict is Verdict.RIGHT for mark in marks.values())
    share = Fraction(hits, len(marks)) if key.partial else Fraction(int(hits == len(marks)))
    says = next((m.says for m in marks.values() if m.says and m.verdict is Verdict.WRONG), None)
    canonical = "\n".join(f"{cell} {mark.canonical}" for cell, mark in marks.items())
    return shared(share, canonical, says, len(marks))
