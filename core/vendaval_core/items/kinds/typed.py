"""What numbers, times, short texts and formulas share: they are typed into a field, and wrong ones
are compared with the slips that the author foresees."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Literal, Protocol

from ..drawn import KeyedNearMiss
from ..fields import NearMissModel
from ..presented import PartOut
from .common import SLACK, Canonical, MarkedByRule, NoAxes, NoFigure, NotChosen, OnePiece
from .protocol import Key, Part

CellValue = Literal["number", "angle", "time", "text"]


class TypedPart(Part):
    """`near_misses`: foreseen wrong answers, and what is said to each."""

    near_misses: list[NearMissModel] = []


class WithSlips(Protocol):
    """What is typed, with the slips that its author foresees."""

    @property
    def label(self) -> str: ...

    @property
    def near_misses(self) -> tuple[KeyedNearMiss, ...]: ...


class Typed(MarkedByRule, OnePiece, NoFigure, NoAxes, NotChosen, Canonical):
    """A key whose answer is one text from one field."""

    __slots__ = ()

    @property
    def units(self) -> int:
        return 1

    @property
    def guess_chance(self) -> float:
        return 0.0

    @property
    def kind(self) -> str:
        return "text_entry"

    def texts(self: WithSlips) -> Iterator[str]:
        yield self.label
        yield from (miss.says for miss in self.near_misses)


class CellKey(Key, Protocol):
    """A key that fits into a cell of a table."""

    @property
    def value(self) -> CellValue:
        """What is typed."""

    @property
    def unit(self) -> str:
        """Shown beside the field, "" for none."""


def typed_like(value: str) -> str:
    """Return something that can be read as a value of this kind."""
    return {"time": "09:41", "angle": "41 30", "text": "north", "expression": "x"}.get(value, "41")


class TextEntryPartOut(PartOut):
    kind: Literal["text_entry"]
    value: Literal["number", "angle", "time", "text", "expression"]
    unit: str
    symbols: list[str]

    def any_response(self) -> str:
        return self.symbols[0] if self.symbols else typed_like(self.value)


def nearest_says(
    misses: Sequence[KeyedNearMiss], tolerance: float, away: Callable[[float], float]
) -> str | None:
    """Return the feedback of the nearest near miss within the tolerance, or None. away: how far an
    answer is from a near miss's value."""
    near = [
        (away(miss.value), place)
        for place, miss in enumerate(misses)
        if isinstance(miss.value, float) and away(miss.value) <= tolerance + SLACK
    ]
    return misses[min(near)[1]].says if near else None
