"""Find what does not belong with the others, and say why: our own kind, no QTI interaction.

The item is worth one unit and the reason another, which counts with the right item only: a reason
that fits another item explains nothing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from pydantic import Field, model_validator

from vendaval_core.language import gettext

from ..fields import Strict, Text, Values
from ..mark import PartMark, Piece, incomplete, lines, shared, unreadable
from ..presented import Html, PartOut, TokenOut
from ..randomness import SeededStream
from ..template import fill
from .common import (
    NOTHING,
    MarkedByRule,
    NoAxes,
    NoFigure,
    NotChosen,
    NotTyped,
    WrongAsExample,
    pieces_in_words,
    tokens_of,
    tokens_out,
    twins,
)
from .protocol import Examples, Foreseen, Part, Token


class OddItemModel(Strict):
    """An item. `odd`: the one that does not belong. `says`: feedback when another is chosen."""

    text: Text
    odd: bool = False
    says: Text | None = None


class ReasonModel(Strict):
    """A reason. `right`: why the odd one does not belong. `says`: feedback when it is chosen."""

    text: Text
    right: bool = False
    says: Text | None = None


class OddOneOutPart(Part):
    """`items`: exactly one with `odd: true`; `reasons`: exactly one with `right: true`."""

    kind: Literal["odd_one_out"]
    items: list[OddItemModel] = Field(min_length=3, max_length=8)
    reasons: list[ReasonModel] = Field(min_length=2, max_length=6)

    @model_validator(mode="after")
    def one_of_each(self) -> OddOneOutPart:
        if sum(item.odd for item in self.items) != 1:
            raise ValueError(gettext("exactly one item is odd"))
        if sum(reason.right for reason in self.reasons) != 1:
            raise ValueError(gettext("exactly one reason is right"))
        return self

    def key(self, values: Values, stream: SeededStream) -> OddOneOutKey:
        items, item_ids = tokens_of([fill(item.text, values) for item in self.items], stream)
        reasons, reason_ids = tokens_of([fill(one.text, values) for one in self.reasons], stream)
        by_item = list(zip(item_ids, self.items, strict=True))
        by_reason = list(zip(reason_ids, self.reasons, strict=True))
        return OddOneOutKey(
            self.id,
            fill(self.label, values),
            items,
            reasons,
            next(id_ for id_, item in by_item if item.odd),
            next(id_ for id_, reason in by_reason if reason.right),
            {id_: fill(item.says, values) for id_, item in by_item if item.says},
            {id_: fill(reason.says, values) for id_, reason in by_reason if reason.says},
        )


@dataclass(frozen=True, slots=True)
class OddOneOutKey(WrongAsExample, MarkedByRule, NoFigure, NoAxes, NotTyped, NotChosen):
    """Items and reasons as presented, with the ids of the right ones, and what is said to the
    others. A response is a pair `item reason`, as QTI 3 writes pairs."""

    id: str
    label: str
    items: tuple[Token, ...]
    reasons: tuple[Token, ...]
    odd: str
    why: str
    says_to_item: dict[str, str]
    says_to_reason: dict[str, str]

    @property
    def kind(self) -> str:
        return "odd_one_out"

    @property
    def units(self) -> int:
        return 2

    @property
    def guess_chance(self) -> float:
        """One of n items and one of m reasons by luck: 1/nm."""
        return 1 / (len(self.items) * len(self.reasons))

    @property
    def examples(self) -> Examples:
        item = next(token.id for token in self.items if token.id != self.odd)
        reason = next(token.id for token in self.reasons if token.id != self.why)
        return Examples(
            f"{self.odd} {self.why}", f"{item} {self.why}", f"{self.odd} {reason}", self.odd
        )

    def read(self, response: str) -> tuple[str, str] | str:
        """Ids of the item and the reason, "" for none yet; or why they cannot be read."""
        item, _, reason = "".join(lines(response)[:1]).partition(" ")
        if item not in {token.id for token in self.items}:
            return gettext("Choose the one that doesn’t belong.")
        if reason not in {"", *(token.id for token in self.reasons)}:
            return gettext("Choose the reason too.")
        return item, reason

    def mark(self, response: str) -> PartMark:
        read = self.read(response)
        if isinstance(read, str):
            return unreadable(read)
        item, reason = read
        canonical = f"{item} {reason}".strip()
        if not reason:
            share = Fraction(int(item == self.odd), 2)
            return incomplete(gettext("Choose the reason too."), share, canonical, of=2)
        if item != self.odd:
            return shared(Fraction(0), canonical, self.says_to_item.get(item), of=2)
        share = Fraction(1 + (reason == self.why), 2)
        return shared(share, canonical, self.says_to_reason.get(reason), of=2)

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        texts = {token.id: token.text for token in self.items}
        reasons = {token.id: token.text for token in self.reasons}
        read = self.read(response)
        item, reason = ("", "") if isinstance(read, str) else read
        found = item == self.odd
        return [
            Piece(gettext("does not belong"), texts.get(item, NOTHING), texts[self.odd], found),
            Piece(
                "because",
                reasons.get(reason, NOTHING),
                reasons[self.why],
                found and reason == self.why,
            ),
        ]

    def same_answer(self, response: str, canonical: str) -> str:
        return self.answer_words(response)

    def foreseen(self) -> Iterator[Foreseen]:
        for token in self.items:
            if token.id != self.odd:
                response = f"{token.id} {self.why}"
                yield Foreseen(token.text, response, self.says_to_item.get(token.id, ""))
        for token in self.reasons:
            if token.id != self.why:
                response = f"{self.odd} {token.id}"
                yield Foreseen(token.text, response, self.says_to_reason.get(token.id, ""))

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (token.text for token in (*self.items, *self.reasons))
        yield from (*self.says_to_item.values(), *self.says_to_reason.values())

    def faults(self) -> Iterator[str]:
        yield from twins([token.text for token in self.items], "items")
        yield from twins([token.text for token in self.reasons], "reasons")

    def presented(self, html: Html) -> OddOneOutPartOut:
        return OddOneOutPartOut(
            kind="odd_one_out",
            id=self.id,
            label=self.label,
            items=tokens_out(self.items, html),
            reasons=tokens_out(self.reasons, html),
        )


class OddOneOutPartOut(PartOut):
    """Items of which one does not belong, and reasons to choose from."""

    kind: Literal["odd_one_out"]
    items: list[TokenOut]
    reasons: list[TokenOut]

    def any_response(self) -> str:
        return f"{self.items[0].id} {self.reasons[0].id}"
