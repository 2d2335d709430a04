"""Type a time of day."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from vendaval_core.language import gettext

from ..drawn import KeyedNearMiss
from ..expressions import clock, evaluate_number
from ..fields import Expression, Values
from ..mark import BLANK, RIGHT, PartMark, ReadBack, Verdict, read_as, unreadable
from ..presented import Html
from ..randomness import SeededStream
from ..reading import Unreadable
from ..template import fill
from ..times import read_time
from .common import SLACK, same_slips
from .protocol import Examples, Foreseen
from .typed import TextEntryPartOut, Typed, TypedPart, nearest_says

DAY = 1440


class TimePart(TypedPart):
    """`answer`: minutes after midnight. `tolerance`: minutes."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["time"]
    answer: Expression
    tolerance: Expression = 1.0

    def key(self, values: Values, stream: SeededStream) -> TimeKey:
        answer = evaluate_number(self.answer, values) % DAY
        return TimeKey(
            self.id,
            fill(self.label, values),
            answer,
            evaluate_number(self.tolerance, values),
            clock(answer),
            tuple(miss.as_number(values, wrap=DAY) for miss in self.near_misses),
        )


@dataclass(frozen=True, slots=True)
class TimeKey(Typed):
    """A time of day, in minutes after midnight."""

    id: str
    label: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]

    @property
    def value(self) -> Literal["time"]:
        """What is typed."""
        return "time"

    @property
    def unit(self) -> str:
        """A time has none."""
        return ""

    @property
    def examples(self) -> Examples:
        return Examples(self.shown, clock(int(self.answer + 360)), None, "noon")

    def mark(self, response: str) -> PartMark:
        time = read_time(response)
        if isinstance(time, Unreadable):
            return unreadable(time.why)

        def away(other: float) -> float:
            apart = abs(time - other) % DAY
            return min(apart, DAY - apart)

        if away(self.answer) <= self.tolerance + SLACK:
            return PartMark(Verdict.RIGHT, str(time), None, RIGHT)
        says = nearest_says(self.near_misses, self.tolerance, away)
        return PartMark(Verdict.WRONG, str(time), says)

    def read_back(self, response: str) -> ReadBack:
        if not response.strip():
            return BLANK
        time = read_time(response)
        if isinstance(time, Unreadable):
            return ReadBack("unreadable", time.why)
        return read_as(response, clock(time))

    def right_words(self) -> str:
        return self.shown

    def answer_words(self, response: str) -> str:
        return response.strip()

    def usual_forms(self) -> Iterator[str]:
        """Common practice, no published source."""
        hour, minute = divmod(round(self.answer) % DAY, 60)
        yield from (self.shown, f"{hour}:{minute:02}", f"{hour}.{minute:02}", f"{hour}h{minute:02}")
        yield from (f"{hour:02} {minute:02}", f"{hour:02}{minute:02} hrs", f"{self.shown} h")
        yield from (f"{self.shown} UTC", f"{self.shown} UT", f"{hour}{minute:02}")
        half, after = ("pm" if hour >= 12 else "am"), (hour - 1) % 12 + 1
        yield from (f"{after}:{minute:02} {half}", f"{after}.{minute:02}{half}")

    def right_when_typed(self, text: str) -> bool:
        return self.mark(text).verdict is Verdict.RIGHT

    def likely_wrong(self, rng: random.Random) -> str:
        if self.near_misses and rng.random() < 0.8:
            return clock(float(rng.choice(self.near_misses).value))
        return self.examples.wrong

    def foreseen(self) -> Iterator[Foreseen]:
        for miss in self.near_misses:
            time = clock(float(miss.value))
            yield Foreseen(time, time, miss.says)

    def faults(self) -> Iterator[str]:
        for miss in self.near_misses:
            if abs(float(miss.value) - self.answer) <= self.tolerance + SLACK:
                yield gettext("near miss {value} is right (answer {shown})").format(
                    value=miss.value, shown=self.shown
                )
        yield from same_slips(self.near_misses)

    def presented(self, html: Html) -> TextEntryPartOut:
        return TextEntryPartOut(
            kind="text_entry", id=self.id, label=self.label, value="time", unit="", symbols=[]
        )
