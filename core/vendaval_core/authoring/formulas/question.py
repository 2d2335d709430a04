"""A question as an author types it from a sheet of paper: marked numbers and words, answers to some
examples, and what comes of them: the formula, or the example to ask for next."""

from __future__ import annotations

import random
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from vendaval_core.errors import CoreError
from vendaval_core.items.expressions import clock
from vendaval_core.items.template import SLOT
from vendaval_core.language import gettext
from vendaval_core.packs.constants import CONSTANTS

from .fits import Fit
from .marks import CIRCLE, CLOCK, DAY, NUMBER, read_mark
from .search import MOST_MARKS, Asked, search
from .words import as_maths, in_words

VERSIONS = 48
SHOWN = 3


class ExampleError(CoreError):
    """An example can't be read. where: the mark or answer."""

    code = "example"

    def __init__(self, where: str, what: str) -> None:
        super().__init__(what)
        self.where = where


@dataclass(frozen=True, slots=True)
class Mark:
    """A marked number or word. written: as it stands in each example. low, high, step: what a
    number may be, in minutes for a time of day. forms: of a word, the first one counts as 1 and
    the other as -1."""

    name: str
    written: tuple[str, ...]
    low: float = 0.0
    high: float = 0.0
    step: float = 1.0
    forms: tuple[str, str] | None = None

    def read(self, text: str) -> float:
        """What it is worth; ExampleError for what is neither a number nor one of its forms."""
        if self.forms is not None:
            if text not in self.forms:
                raise ExampleError(self.name, gettext("It is one of its two words."))
            return 1.0 if text == self.forms[0] else -1.0
        found = read_mark(text)
        if found is None:
            says = gettext("“{text}” is no number or time of day.").format(text=text)
            raise ExampleError(self.name, says)
        return found

    def write(self, value: float) -> str:
        """A value as its question writes it."""
        if self.forms is not None:
            return self.forms[0] if value > 0 else self.forms[1]
        if self.is_clock:
            return clock(value)
        return f"{value:.{self.digits}f}"

    @property
    def is_clock(self) -> bool:
        """Whether it is a time of day."""
        return bool(CLOCK.fullmatch(self.written[0]))

    @property
    def digits(self) -> int:
        """Decimals it is written with."""
        return max(len(text.partition(".")[2]) for text in self.written)

    def drawn(self, chance: random.Random) -> float:
        """A value that it may have."""
        if self.forms is not None:
            return chance.choice((1.0, -1.0))
        steps = max(0, round((self.high - self.low) / self.step)) if self.step > 0 else 0
        return round(self.low + self.step * chance.randint(0, steps), 9)

    def variable(self) -> dict[str, Any]:
        """As a family has it."""
        if self.forms is not None:
            return {"pick": [1, -1]}
        return {"range": [_tidy(one) for one in (self.low, self.high, self.step)]}

    def slot(self) -> str:
        """What stands for it in the text."""
        if self.forms is not None:
            first, second = self.forms
            return f"[['{first}' if {self.name} == 1 else '{second}']]"
        if self.is_clock:
            return f"[[clock({self.name})]]"
        return f"[[fixed({self.name}, {self.digits})]]" if self.digits else f"[[{self.name}]]"


def _tidy(value: float) -> float | int:
    return int(value) if float(value).is_integer() else value


@dataclass(frozen=True, slots=True)
class Question:
    """text: with a place for each mark. answers: as typed, one for each example. direction: whether
    the answer is an angle within the circle."""

    text: str
    marks: tuple[Mark, ...]
    answers: tuple[str, ...]
    direction: bool = False
    constants: Sequence[float] = CONSTANTS


@dataclass(frozen=True, slots=True)
class Explains:
    """A formula that explains the examples, and what it would give next."""

    formula: str
    words: str
    maths: str
    would_be: str


@dataclass(frozen=True, slots=True)
class Reply:
    """state: found; asks, with the numbers to answer for; or none, when nothing fits any more.
    fits: the likeliest ones. more: how many there are beside them."""

    state: Literal["found", "asks", "none"]
    fits: tuple[Explains, ...]
    more: int
    ask: tuple[str, ...] = ()


def find(question: Question, now: Callable[[], float], seconds: float = 4.0) -> Reply:
    """Look for the formula of a question. ExampleError for an example that can't be read. now: see
    `search`."""
    marks = question.marks
    if not 1 <= len(marks) <= MOST_MARKS:
        says = gettext("Mark between one and {most} numbers.").format(most=MOST_MARKS)
        raise ExampleError("marks", says)
    timed = bool(CLOCK.fullmatch(question.answers[0].strip()))
    answers = [_answer(place, text) for place, text in enumerate(question.answers, start=1)]
    digits = 0 if timed else max(len(a.strip().partition(".")[2]) for a in question.answers)
    chance = random.Random(repr([(m.name, m.low, m.high, m.step) for m in marks]))
    rows = [[mark.drawn(chance) for mark in marks] for _ in range(VERSIONS)]
    columns = {
        mark.name: [*map(mark.read, mark.written), *(row[place] for row in rows)]
        for place, mark in enumerate(marks)
    }
    turn = DAY if timed else CIRCLE if question.direction else 0
    numbers = {float(one) for one in NUMBER.findall(SLOT.sub(" ", question.text))}
    constants = tuple(sorted({*question.constants, *numbers}))
    verdict = search(Asked(columns, answers, digits, turn, constants), now, seconds)
    known = len(answers)
    if verdict.taken is not None:
        return Reply("found", (_explains(verdict.taken, known, digits, turn),), 0)
    if verdict.ask is None:
        return Reply("none", (), 0)
    asked = rows[verdict.ask - known]
    shown = tuple(_explains(fit, verdict.ask, digits, turn) for fit in verdict.likely[:SHOWN])
    written = tuple(mark.write(value) for mark, value in zip(marks, asked, strict=True))
    return Reply("asks", shown, max(0, len(verdict.likely) - SHOWN), written)


def _answer(place: int, text: str) -> float:
    found = read_mark(text.strip())
    if found is None:
        raise ExampleError(f"answer {place}", gettext("The answer has to be a number or a time."))
    return found


def _explains(fit: Fit, place: int, digits: int, turn: int) -> Explains:
    value = float(fit.values[place])
    if turn:
        value %= turn
    would_be = f"{value:.{digits}f}"
    if turn == DAY:
        would_be = clock(value)
    return Explains(fit.text, in_words(fit.text), as_maths(fit.text), would_be)


def as_fields(question: Question, title: str, study: str, formula: str) -> Mapping[str, Any]:
    """The fields of a family with the formula that was found, or that its author wrote."""
    timed = bool(CLOCK.fullmatch(question.answers[0].strip()))
    digits = max(len(a.strip().partition(".")[2]) for a in question.answers)
    part: dict[str, Any] = {"kind": "text_entry", "id": "answer"}
    if timed:
        part |= {"value": "time", "answer": formula}
    else:
        part |= {"value": "number", "digits": digits, "answer": formula}
        if question.direction:
            part |= {"unit": "°"}
        if digits:
            part |= {"tolerance": 0.5 * 10.0**-digits}
    text, says = question.text, in_words(formula)
    for mark in question.marks:
        text = text.replace(f"[[{mark.name}]]", mark.slot())
    return {
        "title": title,
        "essential": False,
        "difficulty": 3,
        "seconds": 60,
        "source": gettext("Written for this course"),
        "study": study,
        "variables": {mark.name: mark.variable() for mark in question.marks},
        "prompt": f"{text.strip()}\n",
        "parts": [part],
        "solution": [f"{says[:1].upper()}{says[1:]}: [[{_shown(part)}]]."],
    }


def _shown(part: Mapping[str, Any]) -> str:
    if part["value"] == "time":
        return f"clock({part['answer']})"
    return f"fixed({part['answer']}, {part['digits']})"
