"""Put words into the gaps of a text."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..fields import Text, Values
from ..presented import gaps_missing
from ..randomness import SeededStream
from ..template import fill
from .slots import Slot, SlotsFields, SlotsKey


class GapMatchPart(SlotsFields):
    """`gaps`: the right words in order; `spare`: words that fit nowhere. `text`: with `{{0}}`,
    `{{1}}` … where the gaps are."""

    kind: Literal["gap_match"]
    text: Text
    gaps: list[Text] = Field(min_length=1, max_length=8)
    spare: list[Text] = []

    def key(self, values: Values, stream: SeededStream) -> GapMatchKey:
        tokens = list(dict.fromkeys(self.gaps + self.spare))
        slots = [Slot("", tokens.index(gap)) for gap in self.gaps]
        of = self.in_version(slots, tokens, values, stream)
        reuse = len(set(self.gaps)) < len(self.gaps)
        return GapMatchKey(of, reuse, fill(self.text, values))


@dataclass(frozen=True, slots=True)
class GapMatchKey(SlotsKey):
    """Gaps in a text."""

    @property
    def kind(self) -> Literal["gap_match"]:
        return "gap_match"

    def texts(self) -> Iterator[str]:
        yield self.text
        yield from SlotsKey.texts(self)

    def faults(self) -> Iterator[str]:
        for gap in gaps_missing(self.text, len(self.slots))[:1]:
            yield gettext("{gap} isn’t in the text").format(gap=gap)
        yield from SlotsKey.faults(self)
