"""Keys of a version's parts: what is shown and what is right, texts filled in.

What a learner gives is text: a choice's id, what was typed, or one value a line in QTI 3's own
writing of it (an identifier, a pair `a b`, a point `x y`).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .drawn import KeyedMixUp, KeyedNearMiss, Picture, Shape
from .parts import Criterion
from .plane import PointsKey, ShadingKey

CHOICE_IDS = "abcdefghijklmnop"


@dataclass(frozen=True, slots=True)
class VersionChoice:
    """A choice as presented. right and says stay on the server."""

    id: str
    text: str
    right: bool
    says: str | None
    region: Shape | None = None
    points: int = 0


@dataclass(frozen=True, slots=True)
class ChoiceKey:
    """Choices in presentation order. choose: how many are asked for, None for any number."""

    id: str
    label: str
    choices: tuple[VersionChoice, ...]
    choose: int | None = 1
    partial: bool = False
    kind: Literal["choice", "hot_text", "hotspot"] = "choice"
    text: str = ""
    figure: Picture | None = None
    bounds: tuple[int, int] | None = None

    @property
    def right(self) -> tuple[VersionChoice, ...]:
        """The right choices."""
        return tuple(choice for choice in self.choices if choice.right)


@dataclass(frozen=True, slots=True)
class NumberKey:
    """A number. shown: right answer with its decimals and unit. units: others that are taken.
    words: that may stand beside it."""

    id: str
    label: str
    unit: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]
    digits: int = 0
    figures: int | None = None
    angle: bool = False
    slider: tuple[float, float, float] | None = None
    units: tuple[str, ...] = ()
    words: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class TimeKey:
    """A time of day, in minutes after midnight."""

    id: str
    label: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]


@dataclass(frozen=True, slots=True)
class TextKey:
    """A short text; the first accepted variant is the one shown."""

    id: str
    label: str
    accepted: tuple[str, ...]
    near_misses: tuple[KeyedNearMiss, ...]
    case: bool = False
    accents: bool = False
    slips: int = 0


@dataclass(frozen=True, slots=True)
class ExpressionKey:
    """A formula."""

    id: str
    label: str
    answer: str
    symbols: tuple[str, ...]
    form: Literal["any", "expanded", "factorised", "simplified"]
    near_misses: tuple[KeyedNearMiss, ...]


@dataclass(frozen=True, slots=True)
class Token:
    """Something to put in a slot, or an item to order or join."""

    id: str
    text: str


@dataclass(frozen=True, slots=True)
class OrderKey:
    """Items as presented, and their ids in the right order."""

    id: str
    label: str
    items: tuple[Token, ...]
    right: tuple[str, ...]
    partial: bool
    mix_ups: tuple[KeyedMixUp, ...] = ()


@dataclass(frozen=True, slots=True)
class KeySlot:
    """A slot with the id of its right token, and of those it offers when not all."""

    id: str
    text: str
    right: str
    region: Shape | None = None
    offers: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class SlotsKey:
    """Slots and the tokens to fill them with."""

    id: str
    label: str
    kind: Literal["match", "inline_choice", "gap_match", "graphic_gap_match"]
    slots: tuple[KeySlot, ...]
    tokens: tuple[Token, ...]
    reuse: bool
    partial: bool
    text: str = ""
    figure: Picture | None = None
    mix_ups: tuple[KeyedMixUp, ...] = ()


@dataclass(frozen=True, slots=True)
class AssociateKey:
    """Items as presented, and the right pairs of ids, each in alphabetical order."""

    id: str
    label: str
    items: tuple[Token, ...]
    pairs: frozenset[tuple[str, str]]
    partial: bool
    mix_ups: tuple[KeyedMixUp, ...] = ()


CellKey = NumberKey | TimeKey | TextKey


@dataclass(frozen=True, slots=True)
class TableKey:
    """Rows of texts and cells to fill; a cell's id is unique in the table."""

    id: str
    label: str
    columns: tuple[str, ...]
    rows: tuple[tuple[str, tuple[str | CellKey, ...]], ...]
    partial: bool

    @property
    def cells(self) -> tuple[CellKey, ...]:
        """The cells to fill, row by row."""
        return tuple(c for _, row in self.rows for c in row if not isinstance(c, str))


@dataclass(frozen=True, slots=True)
class WrittenKey:
    """An answer that is kept, and marked by a person if at all."""

    id: str
    label: str
    kind: Literal["extended_text", "drawing", "upload"]
    model: str
    criteria: tuple[Criterion, ...] = ()


PartKey = (
    ChoiceKey
    | NumberKey
    | TimeKey
    | TextKey
    | ExpressionKey
    | OrderKey
    | SlotsKey
    | AssociateKey
    | TableKey
    | PointsKey
    | ShadingKey
    | WrittenKey
)


def units_of(key: PartKey) -> int:
    """How many things a part scores one by one: 1 unless it gives part credit, 0 when unmarked."""
    match key:
        case ChoiceKey(bounds=(_, most)):
            return most
        case ChoiceKey(partial=True):
            return len(key.right)
        case OrderKey(partial=True):
            return len(key.items)
        case SlotsKey(partial=True):
            return len(key.slots)
        case AssociateKey(partial=True):
            return len(key.pairs)
        case TableKey(partial=True):
            return len(key.cells)
        case PointsKey():
            return len(key.targets)
        case WrittenKey():
            return 0
        case _:
            return 1
