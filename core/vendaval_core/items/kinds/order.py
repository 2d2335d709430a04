"""Put items in order."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from math import factorial
from typing import Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..drawn import KeyedMixUp
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
    keyed_mix_up,
    mixed_up,
    pieces_in_words,
    right_mix_ups,
    tokens_of,
    tokens_out,
    twins,
)
from .protocol import Examples, Foreseen, Part, Token

SHUFFLES = 20


class TooEarlyModel(Strict):
    """An item put before another one that it follows."""

    item: Text
    before: Text
    says: Text


class OrderPart(Part):
    """`items`: in the right order. `partial`: a share for each in its place."""

    kind: Literal["order"]
    items: list[Text] = Field(min_length=3, max_length=8)
    partial: bool = False
    near_misses: list[TooEarlyModel] = []

    def key(self, values: Values, stream: SeededStream) -> OrderKey:
        texts = [fill(text, values) for text in self.items]
        for _ in range(SHUFFLES):
            shown, right = tokens_of(texts, stream)
            if [token.id for token in shown] != right:
                break
        ids = dict(zip(texts, right, strict=True))
        mix_ups = tuple(
            keyed_mix_up(miss.item, miss.before, miss.says, ids, ids, values)
            for miss in self.near_misses
        )
        label = fill(self.label, values)
        return OrderKey(self.id, label, shown, tuple(right), self.partial, mix_ups)


@dataclass(frozen=True, slots=True)
class OrderKey(WrongAsExample, MarkedByRule, NoFigure, NoAxes, NotTyped, NotChosen):
    """Items as presented, and their ids in the right order."""

    id: str
    label: str
    items: tuple[Token, ...]
    right: tuple[str, ...]
    partial: bool
    mix_ups: tuple[KeyedMixUp, ...] = ()

    @property
    def kind(self) -> str:
        return "order"

    @property
    def units(self) -> int:
        return len(self.items) if self.partial else 1

    @property
    def guess_chance(self) -> float:
        """A whole order of n by luck: 1/n!."""
        return 1 / factorial(len(self.items))

    @property
    def examples(self) -> Examples:
        *kept, one, other = self.right
        return Examples(
            "\n".join(self.right),
            "\n".join([*self.right[1:], self.right[0]]),
            "\n".join([*kept, other, one]) if self.partial else None,
            self.right[0],
        )

    def mark(self, response: str) -> PartMark:
        given = lines(response)
        if len(set(given)) < len(given) or not set(given) <= set(self.right):
            return unreadable(gettext("Put every item in a place."))
        in_place = sum(a == b for a, b in zip(given, self.right, strict=False))
        every = len(self.right)
        whole = in_place == every
        share = Fraction(in_place, every) if self.partial else Fraction(int(whole))
        if len(given) < every:
            why = gettext("Put every item in a place.")
            return incomplete(why, share, "\n".join(given), every)
        says = mixed_up(self.mix_ups, lambda one, other: given.index(one) < given.index(other))
        return shared(share, "\n".join(given), None if whole else says, len(given))

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        texts = {item.id: item.text for item in self.items}
        given = lines(response) + [""] * len(self.right)
        return [
            Piece(str(i + 1), texts.get(given[i], NOTHING), texts[right], given[i] == right)
            for i, right in enumerate(self.right)
        ]

    def same_answer(self, response: str, canonical: str) -> str:
        return self.answer_words(response)

    def foreseen(self) -> Iterator[Foreseen]:
        texts = {item.id: item.text for item in self.items}
        for one in self.mix_ups:
            order = [item for item in self.right if item != one.place]
            order.insert(order.index(one.token), one.place)
            words = gettext("{texts} before {texts2}").format(
                texts=texts[one.place], texts2=texts[one.token]
            )
            yield Foreseen(words, "\n".join(order), one.says)

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (item.text for item in self.items)
        yield from (one.says for one in self.mix_ups)

    def faults(self) -> Iterator[str]:
        yield from twins([item.text for item in self.items])
        place = self.right.index
        yield from right_mix_ups(self.mix_ups, lambda one, other: place(one) < place(other))

    def presented(self, html: Html) -> OrderPartOut:
        items = tokens_out(self.items, html)
        return OrderPartOut(kind="order", id=self.id, label=self.label, items=items)


class OrderPartOut(PartOut):
    kind: Literal["order"]
    items: list[TokenOut]

    def any_response(self) -> str:
        return "\n".join(item.id for item in self.items)
