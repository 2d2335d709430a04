"""Join items two by two, in no order."""

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


class JoinedModel(Strict):
    """Two items joined that do not belong together."""

    pair: tuple[Text, Text]
    says: Text


class AssociatePart(Part):
    """`pairs`: the right ones. `spare`: items without a partner."""

    kind: Literal["associate"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=6)
    spare: list[Text] = []
    partial: bool = True
    near_misses: list[JoinedModel] = []

    def key(self, values: Values, stream: SeededStream) -> AssociateKey:
        texts = [fill(text, values) for pair in self.pairs for text in pair]
        texts += [fill(text, values) for text in self.spare]
        shown, ids = tokens_of(texts, stream)
        paired = 2 * len(self.pairs)
        pairs = frozenset(
            _sorted(a, b) for a, b in zip(ids[0:paired:2], ids[1:paired:2], strict=True)
        )
        by_text = dict(zip(texts, ids, strict=True))
        mix_ups = tuple(
            keyed_mix_up(*miss.pair, miss.says, by_text, by_text, values)
            for miss in self.near_misses
        )
        label = fill(self.label, values)
        return AssociateKey(self.id, label, shown, pairs, self.partial, mix_ups)


def _sorted(a: str, b: str) -> tuple[str, str]:
    return (a, b) if a < b else (b, a)


@dataclass(frozen=True, slots=True)
class AssociateKey(WrongAsExample, MarkedByRule, NoFigure, NoAxes, NotTyped, NotChosen):
    """Items as presented, and the right pairs of ids, each in alphabetical order."""

    id: str
    label: str
    items: tuple[Token, ...]
    pairs: frozenset[tuple[str, str]]
    partial: bool
    mix_ups: tuple[KeyedMixUp, ...] = ()

    @property
    def kind(self) -> str:
        return "associate"

    @property
    def units(self) -> int:
        return len(self.pairs) if self.partial else 1

    @property
    def guess_chance(self) -> float:
        """n pairs out of m items by luck: n! 2^n (m - 2n)! / m!, elementary probability."""
        pairs, items = len(self.pairs), len(self.items)
        alike: int = factorial(pairs) * 2**pairs * factorial(items - 2 * pairs)
        return alike / factorial(items)

    @property
    def examples(self) -> Examples:
        right = sorted(self.pairs)
        partly = [right[0], *_turned(right[1:])] if len(right) > 2 else None
        return Examples(
            _written(right),
            _written(_turned(right)),
            _written(partly) if partly and self.partial else None,
            right[0][0],
        )

    def read(self, response: str) -> set[tuple[str, str]] | str:
        """Pairs of item ids, some still to be made; or why they cannot be read."""
        known, used = {item.id for item in self.items}, set[str]()
        found = set[tuple[str, str]]()
        for line in lines(response):
            one, _, other = line.partition(" ")
            if one not in known or other not in known or one == other or {one, other} & used:
                return gettext("Join each item to only one other.")
            used |= {one, other}
            found.add(_sorted(one, other))
        return (
            found
            if len(found) <= len(self.pairs)
            else gettext("Make {count} pairs.").format(count=len(self.pairs))
        )

    def mark(self, response: str) -> PartMark:
        found = self.read(response)
        if isinstance(found, str):
            return unreadable(found)
        hits = len(found & self.pairs)
        whole = hits == len(self.pairs)
        share = Fraction(hits, len(self.pairs)) if self.partial else Fraction(int(whole))
        canonical = _written(sorted(found))
        if len(found) < len(self.pairs):
            why = gettext("You have made {count} of {count2} pairs.").format(
                count=len(found), count2=len(self.pairs)
            )
            return incomplete(why, share, canonical, len(self.pairs))
        says = mixed_up(self.mix_ups, lambda one, other: _sorted(one, other) in found)
        return shared(share, canonical, says, len(self.pairs))

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        texts = {item.id: item.text for item in self.items}
        read = self.read(response)
        given = set[tuple[str, str]]() if isinstance(read, str) else read
        partner = dict(given) | {b: a for a, b in given}
        return [
            Piece(texts[a], texts.get(partner.get(a, ""), NOTHING), texts[b], (a, b) in given)
            for a, b in sorted(self.pairs)
        ]

    def same_answer(self, response: str, canonical: str) -> str:
        return self.answer_words(response)

    def foreseen(self) -> Iterator[Foreseen]:
        """Each mix-up among right pairs: the two whose partners it takes are left to each other."""
        texts = {item.id: item.text for item in self.items}
        partner = dict(self.pairs) | {b: a for a, b in self.pairs}
        for mix_up in self.mix_ups:
            one, other = mix_up.place, mix_up.token
            kept = [pair for pair in self.pairs if not {one, other} & set(pair)]
            left = [partner[end] for end in (one, other) if end in partner]
            made = [*kept, (one, other), *([(left[0], left[1])] if len(left) == 2 else [])]
            yield Foreseen(
                gettext("{texts} with {texts2}").format(texts=texts[one], texts2=texts[other]),
                _written(made),
                mix_up.says,
            )

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (item.text for item in self.items)
        yield from (one.says for one in self.mix_ups)

    def faults(self) -> Iterator[str]:
        yield from twins([item.text for item in self.items])
        yield from right_mix_ups(self.mix_ups, lambda one, other: _sorted(one, other) in self.pairs)

    def presented(self, html: Html) -> AssociatePartOut:
        return AssociatePartOut(
            kind="associate",
            id=self.id,
            label=self.label,
            items=tokens_out(self.items, html),
            pairs=len(self.pairs),
        )


def _turned(pairs: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """Pairs with their second halves moved on by one."""
    seconds = [b for _, b in pairs]
    return [(a, b) for (a, _), b in zip(pairs, [*seconds[1:], seconds[0]], strict=True)]


def _written(pairs: list[tuple[str, str]]) -> str:
    return "\n".join(f"{a} {b}" for a, b in pairs)


class AssociatePartOut(PartOut):
    kind: Literal["associate"]
    items: list[TokenOut]
    pairs: int

    def any_response(self) -> str:
        ids = [item.id for item in self.items]
        pairs = [f"{a} {b}" for a, b in zip(ids[::2], ids[1::2], strict=False)]
        return "\n".join(pairs[: self.pairs])
