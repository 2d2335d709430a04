"""Pair what stands on the left with what stands on the right."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from ..fields import Text, Values
from ..randomness import SeededStream
from .common import twins
from .slots import Slot, SlotsFields, SlotsKey


class MatchPart(SlotsFields):
    """`pairs`: left and right; `spare`: right ones without a partner."""

    kind: Literal["match"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=8)
    spare: list[Text] = []
    reuse: bool = False

    def key(self, values: Values, stream: SeededStream) -> MatchKey:
        tokens = list(dict.fromkeys([right for _, right in self.pairs] + self.spare))
        slots = [Slot(left, tokens.index(right)) for left, right in self.pairs]
        reuse = self.reuse or len(tokens) < len(self.pairs)
        return MatchKey(self.in_version(slots, tokens, values, stream), reuse)


@dataclass(frozen=True, slots=True)
class MatchKey(SlotsKey):
    """Pairs."""

    @property
    def kind(self) -> Literal["match"]:
        return "match"

    def faults(self) -> Iterator[str]:
        yield from twins([slot.text for slot in self.slots], "slots")
        yield from SlotsKey.faults(self)
