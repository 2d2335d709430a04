"""Type a word or a few."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..drawn import KeyedNearMiss
from ..fields import Text, Values
from ..mark import BLANK, RIGHT, PartMark, ReadBack, Verdict, unreadable
from ..presented import Html
from ..randomness import SeededStream
from ..reading import Unreadable, folded, is_slip, read_text
from ..template import fill
from .common import same_slips
from .protocol import Examples, Foreseen
from .typed import TextEntryPartOut, Typed, TypedPart


class WordPart(TypedPart):
    """`accepted`: variants, the first is shown as the right answer. `case`, `accents`: whether they
    matter. `exact`: whether no letter may differ; else long words may have a slip."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["text"]
    accepted: list[Text] = Field(min_length=1, max_length=20)
    case: bool = False
    accents: bool = False
    exact: bool = False

    def key(self, values: Values, stream: SeededStream) -> TextKey:
        return TextKey(
            self.id,
            fill(self.label, values),
            tuple(fill(text, values) for text in self.accepted),
            tuple(miss.as_text(values) for miss in self.near_misses),
            self.case,
            self.accents,
            self.exact,
        )


@dataclass(frozen=True, slots=True)
class TextKey(Typed):
    """A short text; the first accepted variant is the one shown."""

    id: str
    label: str
    accepted: tuple[str, ...]
    near_misses: tuple[KeyedNearMiss, ...]
    case: bool = False
    accents: bool = False
    exact: bool = False

    @property
    def value(self) -> Literal["text"]:
        """What is typed."""
        return "text"

    @property
    def unit(self) -> str:
        """A text has none."""
        return ""

    @property
    def examples(self) -> Examples:
        return Examples(
            self.accepted[0],
            gettext("not {accepted}").format(accepted=self.accepted[0]),
            None,
            None,
        )

    def mark(self, response: str) -> PartMark:
        read = read_text(response, case=self.case, accents=self.accents)
        if isinstance(read, Unreadable):
            return unreadable(read.why)
        accepted = [folded(text, case=self.case, accents=self.accents) for text in self.accepted]
        if read in accepted:
            return PartMark(Verdict.RIGHT, read, None, RIGHT)
        said = (m.says for m in self.near_misses if folded(str(m.value)) == folded(response))
        says = next(said, None)
        others = [folded(str(miss.value)) for miss in self.near_misses]
        if not self.exact and any(is_slip(read, text, others) for text in accepted):
            return PartMark(
                Verdict.RIGHT,
                read,
                gettext("The spelling is {accepted}.").format(accepted=self.accepted[0]),
                RIGHT,
            )
        return PartMark(Verdict.WRONG, read, says)

    def read_back(self, response: str) -> ReadBack:
        if not response.strip():
            return BLANK
        read = read_text(response, case=self.case, accents=self.accents)
        return (
            ReadBack("unreadable", read.why) if isinstance(read, Unreadable) else ReadBack("read")
        )

    def right_words(self) -> str:
        return self.accepted[0]

    def answer_words(self, response: str) -> str:
        return response.strip()

    def usual_forms(self) -> Iterator[str]:
        for text in self.accepted:
            yield from (text, f" {text} ", f"{text}.")
            if not text.casefold().startswith("the "):
                yield f"the {text}"
            if not self.case:
                yield from (text.upper(), text.capitalize())

    def right_when_typed(self, text: str) -> bool:
        return self.mark(text).verdict is Verdict.RIGHT

    def likely_wrong(self, rng: random.Random) -> str:
        if self.near_misses and rng.random() < 0.8:
            return str(rng.choice(self.near_misses).value)
        return gettext("not sure")

    def foreseen(self) -> Iterator[Foreseen]:
        for miss in self.near_misses:
            yield Foreseen(str(miss.value), str(miss.value), miss.says)

    def faults(self) -> Iterator[str]:
        accepted = {folded(text) for text in self.accepted}
        for miss in self.near_misses:
            if folded(str(miss.value)) in accepted:
                yield gettext("near miss {value} is right (answer {accepted})").format(
                    value=miss.value, accepted=self.accepted[0]
                )
        yield from same_slips(self.near_misses)

    def presented(self, html: Html) -> TextEntryPartOut:
        return TextEntryPartOut(
            kind="text_entry", id=self.id, label=self.label, value="text", unit="", symbols=[]
        )
