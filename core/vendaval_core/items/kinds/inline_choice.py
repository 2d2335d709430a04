"""Choose from drop-downs in a text."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from math import prod
from typing import Literal

from pydantic import Field, model_validator

from vendaval_core.language import gettext

from ..fields import Strict, Text, Values
from ..presented import gaps_missing
from ..randomness import SeededStream
from ..template import fill
from .slots import Slot, SlotsFields, SlotsKey


class DropDownModel(Strict):
    """`right`: text of the right choice."""

    choices: list[Text] = Field(min_length=2, max_length=8)
    right: Text

    @model_validator(mode="after")
    def right_is_there(self) -> DropDownModel:
        if self.right not in self.choices:
            raise ValueError(gettext("“{right}” isn’t one of the choices").format(right=self.right))
        return self


class InlineChoicePart(SlotsFields):
    """`text`: with `{{0}}`, `{{1}}` … where the drop-downs stand."""

    kind: Literal["inline_choice"]
    text: Text
    gaps: list[DropDownModel] = Field(min_length=1, max_length=8)

    def key(self, values: Values, stream: SeededStream) -> InlineChoiceKey:
        tokens = list(dict.fromkeys(text for gap in self.gaps for text in gap.choices))
        slots = [
            Slot("", tokens.index(gap.right), choices=tuple(tokens.index(c) for c in gap.choices))
            for gap in self.gaps
        ]
        of = self.in_version(slots, tokens, values, stream)
        return InlineChoiceKey(of, reuse=True, text=fill(self.text, values))


@dataclass(frozen=True, slots=True)
class InlineChoiceKey(SlotsKey):
    """Drop-downs, each with its own choices."""

    @property
    def kind(self) -> Literal["inline_choice"]:
        return "inline_choice"

    @property
    def guess_chance(self) -> float:
        """Each drop-down of n by luck: 1/n."""
        return 1 / prod(len(slot.offers) for slot in self.slots)

    def wrong_choices(self, response: str) -> Fraction:
        found = self.read(response)
        if isinstance(found, str):
            return Fraction(0)
        missed = sum(found.get(slot.id, slot.right) != slot.right for slot in self.slots)
        return Fraction(missed, len(self.slots))

    def texts(self) -> Iterator[str]:
        yield self.text
        yield from SlotsKey.texts(self)

    def faults(self) -> Iterator[str]:
        for gap in gaps_missing(self.text, len(self.slots))[:1]:
            yield gettext("{gap} isn’t in the text").format(gap=gap)
        yield from SlotsKey.faults(self)
