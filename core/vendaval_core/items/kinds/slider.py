"""Set a number on a slider."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..drawn import KeyedNearMiss
from ..expressions import evaluate_number
from ..fields import Expression, Values
from ..mark import PartMark, ReadBack
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill, shown
from .common import SLACK
from .number import NumberKey, with_unit
from .protocol import Examples, Foreseen
from .typed import Typed, TypedPart


class SliderPart(TypedPart):
    """`low`, `high`, `step`: of the slider. `tolerance`: greatest difference that is still right.
    `digits`: decimals in which the right answer is shown."""

    kind: Literal["slider"]
    low: Expression
    high: Expression
    step: Expression
    answer: Expression
    tolerance: Expression = 0.0
    unit: str = ""
    digits: int = Field(default=0, ge=0, le=6)

    def key(self, values: Values, stream: SeededStream) -> SliderKey:
        answer = evaluate_number(self.answer, values)
        return SliderKey(
            NumberKey(
                self.id,
                fill(self.label, values),
                self.unit,
                answer,
                evaluate_number(self.tolerance, values),
                with_unit(answer, self.digits, self.unit),
                tuple(miss.as_number(values) for miss in self.near_misses),
                self.digits,
            ),
            evaluate_number(self.low, values),
            evaluate_number(self.high, values),
            evaluate_number(self.step, values),
        )


@dataclass(frozen=True, slots=True)
class SliderKey(Typed):
    """A number between low and high, in steps. It is read and marked as if it were typed."""

    number: NumberKey
    low: float
    high: float
    step: float

    @property
    def id(self) -> str:
        return self.number.id

    @property
    def label(self) -> str:
        return self.number.label

    @property
    def kind(self) -> str:
        return "slider"

    @property
    def near_misses(self) -> tuple[KeyedNearMiss, ...]:
        """The number's."""
        return self.number.near_misses

    @property
    def examples(self) -> Examples:
        far = self.low if self.number.answer > (self.low + self.high) / 2 else self.high
        return Examples(self.number.shown, f"{far:g}", None, "a lot")

    def mark(self, response: str) -> PartMark:
        return self.number.mark(response)

    def read_back(self, response: str) -> ReadBack:
        return self.number.read_back(response)

    def right_words(self) -> str:
        return self.number.shown

    def answer_words(self, response: str) -> str:
        return self.number.answer_words(response)

    def right_points(self) -> Sequence[tuple[float, float]]:
        """The one place on its line, at y 0."""
        return ((self.number.answer, 0.0),)

    def usual_forms(self) -> Iterator[str]:
        return iter(())

    def right_when_typed(self, text: str) -> bool:
        return False

    def likely_wrong(self, rng: random.Random) -> str:
        if self.near_misses and rng.random() < 0.8:
            return shown(round(float(rng.choice(self.near_misses).value), 1))
        return self.examples.wrong

    def foreseen(self) -> Iterator[Foreseen]:
        return self.number.foreseen()

    def faults(self) -> Iterator[str]:
        answer = self.number.answer
        nearest = self.low + round((answer - self.low) / self.step) * self.step
        near = abs(nearest - answer) <= self.number.tolerance + SLACK
        if not self.low <= answer <= self.high or not near:
            yield gettext("the slider cannot be set to {answer:g}").format(answer=answer)
        yield from self.number.faults()

    def presented(self, html: Html) -> SliderPartOut:
        return SliderPartOut(
            kind="slider",
            id=self.id,
            label=self.label,
            unit=self.number.unit,
            low=self.low,
            high=self.high,
            step=self.step,
        )


class SliderPartOut(PartOut):
    kind: Literal["slider"]
    unit: str
    low: float
    high: float
    step: float

    def any_response(self) -> str:
        return f"{self.low:g}"
