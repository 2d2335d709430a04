"""What the kinds that fill places with tokens share: pairs, gaps in a text, places on a figure."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import perm
from typing import Literal

from pydantic import BaseModel

from vendaval_core.language import gettext

from ..drawn import KeyedMixUp, Picture, Shape
from ..fields import Strict, Text, Values
from ..mark import PartMark, Piece, incomplete, lines, shared, unreadable
from ..presented import (
    FigureOut,
    Html,
    PartOut,
    RegionOut,
    TokenOut,
    figure_out,
    region_out,
    texts_between,
)
from ..randomness import SeededStream
from ..template import fill
from .common import (
    NOTHING,
    MarkedByRule,
    NoAxes,
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

Kind = Literal["match", "inline_choice", "gap_match", "graphic_gap_match"]


class MixUpModel(Strict):
    """A token put in a place where it does not belong. `place`: what stands on the left, the
    number of a gap from 0, or the name of a place on the figure."""

    place: Text | int
    token: Text
    says: Text


@dataclass(frozen=True, slots=True)
class Slot:
    """A place to fill, as written: its text, the number of its right token, where it lies, and the
    numbers of the tokens it offers, () for all."""

    text: str
    right: int
    region: Shape | None = None
    choices: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class KeySlot:
    """A slot with the id of its right token, and of those it offers when not all."""

    id: str
    text: str
    right: str
    region: Shape | None = None
    offers: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Slots:
    """Slots and tokens of one version, by ids, before a kind makes its key of them."""

    id: str
    label: str
    slots: tuple[KeySlot, ...]
    tokens: tuple[Token, ...]
    mix_ups: tuple[KeyedMixUp, ...]
    partial: bool


class SlotsFields(Part):
    """`partial`: a share for each place."""

    partial: bool = True
    near_misses: list[MixUpModel] = []

    def in_version(
        self, slots: Sequence[Slot], tokens: Sequence[str], values: Values, stream: SeededStream
    ) -> Slots:
        """Slots and tokens in one version. Raises ExpressionError for an unknown mix-up."""
        texts = [fill(text, values) for text in tokens]
        shown, ids = tokens_of(texts, stream)
        keyed = tuple(
            KeySlot(
                f"s{number}",
                fill(slot.text, values),
                ids[slot.right],
                slot.region,
                tuple(token.id for token in shown if token.id in {ids[c] for c in slot.choices}),
            )
            for number, slot in enumerate(slots)
        )
        places = {slot.text or str(number): slot.id for number, slot in enumerate(keyed)}
        by_text = dict(zip(texts, ids, strict=True))
        mix_ups = tuple(
            keyed_mix_up(miss.place, miss.token, miss.says, places, by_text, values)
            for miss in self.near_misses
        )
        return Slots(
            id=self.id,
            label=fill(self.label, values),
            slots=keyed,
            tokens=shown,
            mix_ups=mix_ups,
            partial=self.partial,
        )


@dataclass(frozen=True, slots=True)
class SlotsKey(WrongAsExample, MarkedByRule, NoAxes, NotTyped, NotChosen):
    """Slots and the tokens to fill them with. reuse: whether one token may fill several."""

    of: Slots
    reuse: bool
    text: str = ""
    figure: Picture | None = None

    @property
    @abstractmethod
    def kind(self) -> Kind:
        """The interaction."""

    @property
    def id(self) -> str:
        return self.of.id

    @property
    def label(self) -> str:
        return self.of.label

    @property
    def slots(self) -> tuple[KeySlot, ...]:
        """In the order they are shown in."""
        return self.of.slots

    @property
    def tokens(self) -> tuple[Token, ...]:
        """As presented."""
        return self.of.tokens

    @property
    def units(self) -> int:
        return len(self.slots) if self.of.partial else 1

    @property
    def guess_chance(self) -> float:
        """n slots with t tokens by luck: 1/t^n, or (t - n)!/t! when each is used once."""
        slots, tokens = len(self.slots), len(self.tokens)
        return tokens**-slots if self.reuse else 1 / perm(tokens, slots)

    @property
    def examples(self) -> Examples:
        right = {slot.id: slot.right for slot in self.slots}
        first, *rest = self.slots
        partly = {first.id: first.right} | self._misplaced(rest) if rest else right
        can_be_partly = self.of.partial and partly != right and len(partly) == len(right)
        return Examples(
            _written(right),
            _written(self._misplaced(self.slots)),
            _written(partly) if can_be_partly else None,
            gettext("{id} no such token").format(id=first.id),
        )

    def _misplaced(self, slots: Sequence[KeySlot]) -> dict[str, str]:
        """Every one of these slots with another token than its own; where each may be used once
        they go round. Empty when there is no other token for a single slot."""
        if self.reuse:
            all_tokens = tuple(token.id for token in self.tokens)
            return {
                slot.id: next(t for t in slot.offers or all_tokens if t != slot.right)
                for slot in slots
            }
        right = [slot.right for slot in slots]
        spare = [t.id for t in self.tokens if t.id not in {slot.right for slot in self.slots}]
        moved = [*right[1:], right[0]] if len(right) > 1 else spare[:1]
        return dict(zip((slot.id for slot in slots), moved, strict=False))

    def read(self, response: str) -> dict[str, str] | str:
        """Token by slot, some left empty; or why it cannot be read."""
        found: dict[str, str] = {}
        slots, tokens = {slot.id for slot in self.slots}, {token.id for token in self.tokens}
        for line in lines(response):
            slot, _, token = line.partition(" ")
            if slot not in slots or token not in tokens or slot in found:
                return gettext("That answer doesn’t fit this question.")
            found[slot] = token
        if not self.reuse and len(set(found.values())) < len(found):
            return gettext("Use each one only once.")
        return found

    def mark(self, response: str) -> PartMark:
        found = self.read(response)
        if isinstance(found, str):
            return unreadable(found)
        hits, every = sum(found.get(slot.id) == slot.right for slot in self.slots), len(self.slots)
        share = Fraction(hits, every) if self.of.partial else Fraction(int(hits == every))
        canonical = _written(dict(sorted(found.items())))
        if len(found) < every:
            left = gettext("{left} of {count} places are empty.")
            why = left.format(left=every - len(found), count=every)
            return incomplete(why, share, canonical, every)
        says = mixed_up(self.of.mix_ups, lambda slot, token: found[slot] == token)
        return shared(share, canonical, says, every)

    def right_words(self) -> str:
        return pieces_in_words(self.pieces(""), right=True)

    def answer_words(self, response: str) -> str:
        return pieces_in_words(self.pieces(response), right=False)

    def pieces(self, response: str) -> list[Piece]:
        texts = {token.id: token.text for token in self.tokens}
        read = self.read(response)
        found = dict[str, str]() if isinstance(read, str) else read
        return [
            Piece(
                slot.text or gettext("gap {number}").format(number=number),
                texts.get(found.get(slot.id, ""), NOTHING),
                texts[slot.right],
                found.get(slot.id) == slot.right,
            )
            for number, slot in enumerate(self.slots, start=1)
        ]

    def same_answer(self, response: str, canonical: str) -> str:
        return self.answer_words(response)

    def foreseen(self) -> Iterator[Foreseen]:
        """Each mix-up among right tokens: what stood in its place goes to where its own belongs."""
        names = {
            s.id: s.text or gettext("gap {n}").format(n=n)
            for n, s in enumerate(self.slots, start=1)
        }
        texts = {token.id: token.text for token in self.tokens}
        for one in self.of.mix_ups:
            given = {slot.id: slot.right for slot in self.slots}
            if not self.reuse:
                other = next((slot for slot, right in given.items() if right == one.token), None)
                if other is not None:
                    given[other] = given[one.place]
            given[one.place] = one.token
            words = gettext("{names} with {texts}").format(
                names=names[one.place], texts=texts[one.token]
            )
            yield Foreseen(words, _written(given), one.says)

    def texts(self) -> Iterator[str]:
        yield self.label
        yield from (token.text for token in self.tokens)
        yield from (slot.text for slot in self.slots)
        yield from (one.says for one in self.of.mix_ups)

    def faults(self) -> Iterator[str]:
        yield from twins([token.text for token in self.tokens])
        right = {(slot.id, slot.right) for slot in self.slots}
        yield from right_mix_ups(self.of.mix_ups, lambda one, other: (one, other) in right)

    def presented(self, html: Html) -> SlotsPartOut:
        return SlotsPartOut(
            kind=self.kind,
            id=self.id,
            label=self.label,
            slots=[
                SlotOut(
                    id=slot.id,
                    html=html(slot.text),
                    region=region_out(slot.region),
                    offers=list(slot.offers),
                )
                for slot in self.slots
            ],
            tokens=tokens_out(self.tokens, html),
            reuse=self.reuse,
            text=texts_between(self.text, html),
            figure=figure_out(self.figure),
        )


def _written(given: Mapping[str, str]) -> str:
    return "\n".join(f"{slot} {token}" for slot, token in given.items())


class SlotOut(BaseModel):
    """A slot. `offers`: ids of the tokens it takes, empty for all."""

    id: str
    html: str
    region: RegionOut | None
    offers: list[str]


class SlotsPartOut(PartOut):
    """`text`: pieces of text with a slot after each but the last."""

    kind: Kind
    slots: list[SlotOut]
    tokens: list[TokenOut]
    reuse: bool
    text: list[str]
    figure: FigureOut | None

    def any_response(self) -> str:
        tokens = [token.id for token in self.tokens]
        offers = [slot.offers or tokens for slot in self.slots]
        return "\n".join(
            f"{slot.id} {offered[n % len(offered)]}"
            for n, (slot, offered) in enumerate(zip(self.slots, offers, strict=True))
        )
