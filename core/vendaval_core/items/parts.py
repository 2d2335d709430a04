"""Parts as authors write them, named as QTI 3 names its interactions.

Expressions are strings for `expressions.evaluate`, texts are templates for `template.fill`.
`label` names a part when a question has several.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .drawn import Expression, Figure, MixUp, NearMiss, Region
from .plane import PointsPart, ShadingPart


@dataclass(frozen=True, slots=True)
class ChoiceOption:
    """One choice. right: True, False or an expression. says: feedback when it is chosen.

    points: what choosing it is worth, in a part with bounds. region: where a hotspot lies. In hot
    text the options stand in the text in their order.
    """

    text: str
    right: bool | str = False
    says: str | None = None
    region: Region | None = None
    points: int = 0


@dataclass(frozen=True, slots=True)
class ChoicePart:
    """Choose among several.

    choose: how many, None for any number. partial: right choices earn a share each, wrong ones
    take one off, never below 0 (QTI 3 mapResponse with a lower bound). text: of hot text, with
    `{{0}}`, `{{1}}` … where the options stand. bounds: the least and the most that the options'
    points can come to (QTI 3 mapping); the most is full marks.
    """

    id: str
    options: tuple[ChoiceOption, ...]
    label: str = ""
    shuffle: bool = True
    choose: int | None = 1
    partial: bool = False
    kind: Literal["choice", "hot_text", "hotspot"] = "choice"
    text: str = ""
    figure: Figure | None = None
    bounds: tuple[int, int] | None = None


@dataclass(frozen=True, slots=True)
class NumberEntryPart:
    """Type a number, or set it on a slider.

    unit: shown beside the field, "" for none.
    tolerance: greatest absolute difference that is still right. relative: the same as a share of
    the answer. figures: significant figures that must agree. digits: decimals in which the right
    answer is shown. angle: typed in degrees and minutes. slider: low, high, step. units: others
    that are taken, because converting is not what is asked. words: that may stand beside the
    number. given: the answer stands in the prompt, to be found there.
    """

    id: str
    answer: Expression
    tolerance: Expression
    unit: str = ""
    digits: int = 0
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    least: Expression | None = None
    most: Expression | None = None
    relative: float | None = None
    figures: int | None = None
    angle: bool = False
    slider: tuple[Expression, Expression, Expression] | None = None
    units: tuple[str, ...] = ()
    words: tuple[str, ...] = ()
    given: bool = False
    kind: Literal["number"] = "number"


@dataclass(frozen=True, slots=True)
class TimeEntryPart:
    """Type a time of day. answer: minutes after midnight; tolerance: minutes."""

    id: str
    answer: Expression
    tolerance: Expression
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    kind: Literal["time"] = "time"


@dataclass(frozen=True, slots=True)
class TextEntryPart:
    """Type a word or a few. accepted: variants, the first is shown as the right answer.

    case, accents: whether they matter. slips: letters that may differ.
    """

    id: str
    accepted: tuple[str, ...]
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    case: bool = False
    accents: bool = False
    slips: int = 0
    kind: Literal["text"] = "text"


@dataclass(frozen=True, slots=True)
class ExpressionPart:
    """Type a formula, compared as mathematics.

    answer: a template. symbols: letters that may stand in it. form: what else it must be.
    """

    id: str
    answer: str
    symbols: tuple[str, ...]
    form: Literal["any", "expanded", "factorised", "simplified"] = "any"
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    kind: Literal["expression"] = "expression"


@dataclass(frozen=True, slots=True)
class OrderPart:
    """Put items in order; they are given in the right one. partial: a share for each in place.

    mix_ups: an item put before another one that it follows.
    """

    id: str
    items: tuple[str, ...]
    label: str = ""
    partial: bool = False
    mix_ups: tuple[MixUp, ...] = ()
    kind: Literal["order"] = "order"


@dataclass(frozen=True, slots=True)
class Slot:
    """A place to fill: its text (or region on a figure) and the number of the right token."""

    text: str
    right: int
    region: Region | None = None
    choices: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class SlotsPart:
    """Give every slot a token.

    kind match: pairs. inline_choice and gap_match: `{{0}}`, `{{1}}` … stand in `text`.
    graphic_gap_match: slots lie on `figure`. reuse: one token may fill several slots. partial: a
    share for each slot.
    """

    id: str
    slots: tuple[Slot, ...]
    tokens: tuple[str, ...]
    kind: Literal["match", "inline_choice", "gap_match", "graphic_gap_match"]
    label: str = ""
    text: str = ""
    figure: Figure | None = None
    reuse: bool = False
    partial: bool = True
    mix_ups: tuple[MixUp, ...] = ()


@dataclass(frozen=True, slots=True)
class AssociatePart:
    """Join items two by two, in no order. pairs: the right ones, as item texts."""

    id: str
    pairs: tuple[tuple[str, str], ...]
    spare: tuple[str, ...] = ()
    label: str = ""
    partial: bool = True
    mix_ups: tuple[MixUp, ...] = ()
    kind: Literal["associate"] = "associate"


CellPart = NumberEntryPart | TimeEntryPart | TextEntryPart


@dataclass(frozen=True, slots=True)
class TableEntryPart:
    """Fill cells of a table. rows: a label and its cells, texts or parts to answer."""

    id: str
    columns: tuple[str, ...]
    rows: tuple[tuple[str, tuple[str | CellPart, ...]], ...]
    label: str = ""
    partial: bool = True
    kind: Literal["table_entry"] = "table_entry"


@dataclass(frozen=True, slots=True)
class Criterion:
    """What a marker looks for, and the points it is worth, at least 1."""

    says: str
    points: int


@dataclass(frozen=True, slots=True)
class WrittenPart:
    """An answer that no rule can mark: kept, shown beside the model answer, and counted where a
    person marks it. criteria: by which they do.

    kind extended_text: a text; drawing: a sketch; upload: made on paper.
    """

    id: str
    model: str
    kind: Literal["extended_text", "drawing", "upload"]
    label: str = ""
    criteria: tuple[Criterion, ...] = ()


Part = (
    ChoicePart
    | NumberEntryPart
    | TimeEntryPart
    | TextEntryPart
    | ExpressionPart
    | OrderPart
    | SlotsPart
    | AssociatePart
    | TableEntryPart
    | PointsPart
    | ShadingPart
    | WrittenPart
)
