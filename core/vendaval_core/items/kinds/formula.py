"""Type a formula, compared as mathematics."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from vendaval_core.language import gettext, gettext_noop

from ..drawn import KeyedNearMiss
from ..fields import Text, Values
from ..formulas.syntax import FormulaUnreadable, formula_tree, formula_words
from ..formulas.workers import Found, Work, formula_workers
from ..mark import BLANK, RIGHT, PartMark, ReadBack, Verdict, read_as, unreadable
from ..presented import Html
from ..randomness import SeededStream
from ..template import fill
from .common import NotTyped, WrongAsExample, same_slips
from .protocol import Examples, Foreseen
from .typed import TextEntryPartOut, Typed, TypedPart

Form = Literal["any", "expanded", "factorised", "simplified"]
NOT_TAKEN = {
    "busy": gettext_noop("We’re checking many formulas right now. Send yours again."),
    "not_ready": gettext_noop("We can’t check formulas right now. Send yours again in a minute."),
    "one_at_a_time": gettext_noop(
        "We’re still checking another formula of yours. Send this one again."
    ),
}


class FormulaPart(TypedPart):
    """`answer`: a template. `symbols`: letters that may stand in it. `form`: what else it must
    be."""

    kind: Literal["text_entry"] = "text_entry"
    value: Literal["expression"]
    answer: Text
    symbols: list[Annotated[str, Field(pattern=r"^[A-Za-z]$")]] = Field(min_length=1, max_length=8)
    form: Form = "any"

    def key(self, values: Values, stream: SeededStream) -> FormulaKey:
        return FormulaKey(
            self.id,
            fill(self.label, values),
            fill(self.answer, values),
            tuple(self.symbols),
            self.form,
            tuple(miss.as_text(values) for miss in self.near_misses),
        )


@dataclass(frozen=True, slots=True)
class FormulaKey(WrongAsExample, NotTyped, Typed):
    """A formula. It is compared in a worker process of its own, for what is typed can be made to
    take for ever."""

    id: str
    label: str
    answer: str
    symbols: tuple[str, ...]
    form: Form
    near_misses: tuple[KeyedNearMiss, ...]

    @property
    def examples(self) -> Examples:
        return Examples(self.answer, f"{self.answer} + 1", None, "2 +")

    def mark(self, response: str) -> PartMark:
        misses = tuple(str(miss.value) for miss in self.near_misses)
        found = formula_workers.ask(Work(response, self.answer, misses, self.symbols, self.form))
        if not isinstance(found, Found):
            return unreadable(gettext(NOT_TAKEN[found]))
        if found.verdict == "unreadable":
            return unreadable(found.says)
        if found.verdict == "right":
            return PartMark(Verdict.RIGHT, found.canonical, None, RIGHT)
        says = self.near_misses[found.miss].says if found.miss >= 0 else found.says
        return PartMark(Verdict.WRONG, found.canonical, says or None)

    def read_back(self, response: str) -> ReadBack:
        if not response.strip():
            return BLANK
        try:
            return read_as(response, formula_words(formula_tree(response, self.symbols)))
        except FormulaUnreadable as error:
            return ReadBack("unreadable", str(error))

    def right_words(self) -> str:
        return self.answer

    def answer_words(self, response: str) -> str:
        return response.strip()

    def usual_forms(self) -> Iterator[str]:
        """Common practice, no published source."""
        for times in "×·•⋅":
            if "*" in self.answer.replace("**", ""):
                yield self.answer.replace("**", "^").replace("*", times)
        for minus in "–−":
            if "-" in self.answer:
                yield self.answer.replace("-", minus)
        letters = {letter.lower() for letter in self.symbols}
        one_case_each = len(letters) == len(self.symbols)
        if one_case_each and set(re.findall("[a-z]", self.answer)) <= letters:
            yield self.answer.upper()
        subject = next(letter for letter in "dysxzw" if letter not in letters)
        yield from (f"{subject} = {self.answer}", f"{self.answer}.")

    def foreseen(self) -> Iterator[Foreseen]:
        for miss in self.near_misses:
            yield Foreseen(str(miss.value), str(miss.value), miss.says)

    def faults(self) -> Iterator[str]:
        for miss in self.near_misses:
            if self.mark(str(miss.value)).verdict is Verdict.RIGHT:
                yield gettext("the near miss {value} is right (answer {answer})").format(
                    value=miss.value, answer=self.answer
                )
        yield from same_slips(self.near_misses)

    def presented(self, html: Html) -> TextEntryPartOut:
        return TextEntryPartOut(
            kind="text_entry",
            id=self.id,
            label=self.label,
            value="expression",
            unit="",
            symbols=list(self.symbols),
        )
