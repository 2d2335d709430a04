"""Type a number, alone or with its unit; or an angle in degrees and minutes."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal, cast, get_args

from pydantic import Field, model_validator

from vendaval_core.language import gettext

from ...errors import ExpressionError
from ...words import counted
from ..drawn import KeyedNearMiss
from ..expressions import evaluate_number, fixed, whole
from ..fields import Expression, Text, Values
from ..letters import Letter
from ..mark import BLANK, RIGHT, PartMark, ReadBack, Verdict, read_as, unreadable
from ..numbers import ANY_DECIMALS, NUMBERS_IN_WORDS, ReadNumber, read_number
from ..presented import Html
from ..randomness import SeededStream
from ..reading import Unreadable
from ..template import fill, shown
from ..units import FACTORS, NAMES, converted
from .common import SLACK, same_slips
from .protocol import Examples, Foreseen
from .typed import TextEntryPartOut, Typed, TypedPart, nearest_says


class NumberPart(TypedPart):
    """`tolerance` is absolute, `relative` a share of the answer, `figures` significant ones that
    must agree. `digits`: decimals in which the right answer is shown. `least`, `most`: between
    which it lies in every version. `units`: others that are taken, because converting is not what
    is asked. `words`: nouns that may stand beside the number. `letter`: that belongs to an angle
    and may stand after it: T, M, C, E, W, N or S. `given`: the answer stands in the prompt, to be
    found there."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["number", "angle"]
    answer: Expression
    tolerance: Expression = 0.0
    relative: float | None = Field(default=None, gt=0, lt=1)
    figures: int | None = Field(default=None, ge=1, le=6)
    unit: str = ""
    digits: int = Field(default=0, ge=0, le=6)
    least: Expression | None = None
    most: Expression | None = None
    units: list[str] = []
    words: list[str] = []
    letter: Text = ""
    given: bool = False

    @model_validator(mode="after")
    def units_convert(self) -> NumberPart:
        for unit in self.units:
            if converted(1, unit, self.unit) is None:
                raise ValueError(
                    gettext("“{unit}” does not convert to “{unit2}”").format(
                        unit=unit, unit2=self.unit
                    )
                )
        return self

    def key(self, values: Values, stream: SeededStream) -> NumberKey:
        answer = evaluate_number(self.answer, values)
        tolerance = evaluate_number(self.tolerance, values)
        if self.relative is not None:
            tolerance = max(tolerance, abs(answer) * self.relative)
        if self.least is not None and answer < (least := evaluate_number(self.least, values)):
            raise ExpressionError(
                gettext("answer {answer:g} is below {least:g}").format(answer=answer, least=least)
            )
        if self.most is not None and answer > (most := evaluate_number(self.most, values)):
            raise ExpressionError(
                gettext("answer {answer:g} is above {most:g}").format(answer=answer, most=most)
            )
        angle = self.value == "angle"
        return NumberKey(
            self.id,
            fill(self.label, values),
            self.unit,
            answer,
            tolerance,
            degrees_shown(answer, self.digits)
            if angle
            else with_unit(answer, self.digits, self.unit),
            tuple(miss.as_number(values) for miss in self.near_misses),
            self.digits,
            self.figures,
            angle,
            tuple(self.units),
            tuple(word.casefold() for word in self.words),
            self.given,
            _letter(fill(self.letter, values)),
        )


def _letter(text: str) -> Letter:
    if text not in get_args(Letter):
        raise ExpressionError(gettext("“{text}” is no letter of an angle").format(text=text))
    return cast(Letter, text)


def with_unit(answer: float, digits: int, unit: str) -> str:
    """Return the right answer with its decimals and unit."""
    return f"{fixed(answer, digits)}{_unit_after(unit)}"


def _unit_after(unit: str) -> str:
    return unit if unit in {"", "°", "′"} else f"\u00a0{unit}"


def degrees_shown(answer: float, digits: int) -> str:
    """Return degrees and minutes, rounded before they are split: never 60 minutes, and never minus
    nothing."""
    parts_of_degree = 60 * 10**digits
    degrees, rest = divmod(whole(abs(answer) * parts_of_degree), parts_of_degree)
    sign = "\u2212" if answer < 0 and (degrees or rest) else ""
    minutes = fixed(rest / 10**digits, digits).zfill(digits + 3 if digits else 2)
    return f"{sign}{degrees}° {minutes}′"


def typed_angle(degrees: float) -> str:
    """Return an angle as somebody types it: 38.625 gives 38 37.5."""
    tenths = round(abs(degrees) * 600)
    sign = "-" if degrees < 0 else ""
    return f"{sign}{tenths // 600} {tenths % 600 / 10:g}"


@dataclass(frozen=True, slots=True)
class NumberKey(Typed):
    """A number. shown: right answer with its decimals and unit. tolerance: greatest absolute
    difference that is still right. units: others that are taken. words: that may stand beside
    it. given: it stands in the prompt. letter: that belongs to it."""

    id: str
    label: str
    unit: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]
    digits: int = 0
    figures: int | None = None
    angle: bool = False
    units_taken: tuple[str, ...] = ()
    words: tuple[str, ...] = ()
    given: bool = False
    letter: Letter = ""

    @property
    def value(self) -> Literal["number", "angle"]:
        """What is typed."""
        return "angle" if self.angle else "number"

    @property
    def examples(self) -> Examples:
        wrong = (
            typed_angle((abs(self.answer) + 37.185) % 90)
            if self.angle
            else f"{self.answer + 1000 * max(self.tolerance, 1.0):.3f}"
        )
        return Examples(self.shown, wrong, None, "a lot")

    def mark(self, response: str) -> PartMark:
        whole = abs(self.answer) >= 1000 or self.answer == round(self.answer)
        read = self._read(response, grouped=whole)
        if isinstance(read, Unreadable):
            return unreadable(read.why)
        canonical = f"{read.value!r} {read.letter}".strip()
        if read.letter:
            other = gettext("You wrote {letter}. Check which way it is.")
            return PartMark(Verdict.WRONG, canonical, other.format(letter=read.letter))
        if self.is_right(read.value):
            return PartMark(Verdict.RIGHT, canonical, read.said, RIGHT)
        says = self._says(read.value, read.decimals)
        found = " ".join(text for text in (read.said, says) if text)
        return PartMark(Verdict.WRONG, canonical, found or None)

    def _read(self, response: str, *, grouped: bool) -> ReadNumber | Unreadable:
        return read_number(
            response,
            self.unit,
            angle=self.angle,
            units=self.units_taken,
            words=self.words,
            grouped=grouped,
            letter=self.letter,
        )

    def read_back(self, response: str) -> ReadBack:
        if not response.strip():
            return BLANK
        read = self._read(response, grouped=False)
        if isinstance(read, Unreadable):
            return ReadBack("unreadable", read.why)
        if self.angle:
            return read_as(response, degrees_shown(read.value, 1), typed_angle(read.value))
        worked_out = read.decimals == ANY_DECIMALS
        bare = shown(round(read.value, 4)) if worked_out else fixed(read.value, read.decimals)
        return read_as(response, f"{bare}{_unit_after(self.unit)}", bare)

    def is_right(self, value: float) -> bool:
        """Whether a number is near enough, or agrees in its significant figures."""
        if abs(value - self.answer) <= self.tolerance + SLACK:
            return True
        if self.figures is None:
            return False
        mine, its = _rounded_to(value, self.figures), _rounded_to(self.answer, self.figures)
        return math.isclose(mine, its, rel_tol=1e-12)

    def _says(self, value: float, decimals: int) -> str | None:
        """What a wrong number shows: a foreseen slip, rounding too far, another unit."""
        says = nearest_says(self.near_misses, self.tolerance, lambda slip: abs(value - slip))
        if says is not None:
            return says
        enough = self._decimals_enough()
        if decimals < enough and fixed(self.answer, decimals) == fixed(value, decimals):
            places = counted(enough, "decimal place", "decimal places")
            return gettext("You rounded too much. Give {places}.").format(places=places)
        for factors in FACTORS.values():
            if self.unit not in factors:
                continue
            for unit in factors:
                other = converted(value, unit, self.unit)
                if unit != self.unit and other is not None and value and self.is_right(other):
                    return gettext(
                        "The number is right in {unit}. The question asks for {unit2}."
                    ).format(unit=unit, unit2=self.unit)
        return None

    def _decimals_enough(self) -> int:
        """The fewest decimals with which the rounded answer is still right."""
        rounded = (round(self.answer, places) for places in range(self.digits))
        enough = (places for places, value in enumerate(rounded) if self.is_right(value))
        return next(enough, self.digits)

    def right_words(self) -> str:
        return self.shown

    def answer_words(self, response: str) -> str:
        typed = response.strip()
        if not self.unit or not typed[-1:].isdigit():
            return typed
        return typed + _unit_after(self.unit)

    def usual_forms(self) -> Iterator[str]:
        """Common practice, no published source: as pupils, sailors and cooks write numbers."""
        if self.angle:
            degrees = typed_angle(self.answer)
            yield from (degrees, self.shown, f"{self.shown}.")
            if self.letter:
                yield from (f"{self.shown} {self.letter}", f"{degrees} {self.letter}")
            return
        plain = fixed(self.answer, self.digits).replace("\u2212", "-")
        yield from (plain, self.shown, f"= {plain}", f"≈{plain}", f"{plain}.", f"×{plain}")
        if self.digits not in {0, 3}:
            yield plain.replace(".", ",")
        yield from _grouped_forms(plain)
        if self.digits == 0 and 0 <= self.answer <= 12:
            yield NUMBERS_IN_WORDS[round(self.answer)]
        for name in NAMES.get(self.unit, ()):
            yield from (f"{plain} {name}", f"{plain}{name}")
        for word in self.words:
            yield from (f"{word} {plain}", f"{word}{plain}", f"{word}-{plain}", f"{plain} {word}")
        if self.letter:
            after = (f"{plain}{self.letter}", f"{plain}° {self.letter}", f"{plain} ({self.letter})")
            yield from after
        if {"h", "min"} <= {self.unit, *self.units_taken}:
            minutes = round(self.answer * (60 if self.unit == "h" else 1))
            hours, rest = divmod(minutes, 60)
            yield from (f"{hours} h {rest} min", f"{hours}:{rest:02}", f"{hours}h{rest:02}")

    def right_when_typed(self, text: str) -> bool:
        return not self.given and self.mark(text).verdict is Verdict.RIGHT

    def likely_wrong(self, rng: random.Random) -> str:
        if self.near_misses and rng.random() < 0.8:
            value = float(rng.choice(self.near_misses).value)
            return typed_angle(value) if self.angle else shown(round(value, 1))
        if self.angle:
            return self.examples.wrong
        far = 1.3 * self.answer + 3 * self.tolerance + 0.1**self.digits
        return shown(round(far, self.digits))

    def foreseen(self) -> Iterator[Foreseen]:
        for miss in self.near_misses:
            value = float(miss.value)
            typed = typed_angle(value) if self.angle else f"{value:.9f}"
            yield Foreseen(f"{value:g}", typed, miss.says)

    def faults(self) -> Iterator[str]:
        for miss in self.near_misses:
            if abs(float(miss.value) - self.answer) <= self.tolerance + SLACK:
                yield gettext("near miss {value} is right (answer {shown})").format(
                    value=miss.value, shown=self.shown
                )
        yield from same_slips(self.near_misses)

    def presented(self, html: Html) -> TextEntryPartOut:
        return TextEntryPartOut(
            kind="text_entry",
            id=self.id,
            label=self.label,
            value=self.value,
            unit=self.unit,
            symbols=[],
        )


def _grouped_forms(plain: str) -> Iterator[str]:
    """A number of four figures or more with its thousands apart."""
    whole_, point, rest = plain.partition(".")
    if len(whole_.lstrip("-")) > 3:
        grouped = f"{int(whole_):,}"
        for separator in (",", " ", "\u2009", "'", "’"):
            yield grouped.replace(",", separator) + point + rest


def _rounded_to(value: float, figures: int) -> float:
    return 0.0 if value == 0 else round(value, figures - 1 - math.floor(math.log10(abs(value))))
