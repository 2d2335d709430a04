"""A text in one's own words: kept, and marked by a person if at all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import Field, model_validator

from vendaval_core.language import gettext, ngettext

from ..fields import Strict, Values
from ..mark import BLANK, PartMark, ReadBack, Verdict
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..rich_text import count_words, is_rich, words_of
from ..template import fill
from .written import PersonKey, PersonPart, without_marks


class WordsModel(Strict):
    """How long a text should be. Nobody is stopped: it is said while one writes."""

    least: int | None = Field(default=None, ge=1, le=5000)
    most: int | None = Field(default=None, ge=1, le=5000)

    @model_validator(mode="after")
    def _in_order(self) -> WordsModel:
        if self.least is not None and self.most is not None and self.least > self.most:
            raise ValueError("least is more than most")
        return self


class TextPart(PersonPart):
    """`words`: how many are asked for, if the author says so."""

    kind: Literal["extended_text"]
    words: WordsModel = Field(default_factory=WordsModel)

    def key(self, values: Values, stream: SeededStream) -> WrittenKey:
        return WrittenKey(
            self.id,
            fill(self.label, values),
            fill(self.model, values),
            self.criteria_of(),
            self.words.least,
            self.words.most,
        )


@dataclass(frozen=True, slots=True)
class WrittenKey(PersonKey):
    """A text that is kept. least, most: words that are asked for."""

    least: int | None = None
    most: int | None = None

    @property
    def kind(self) -> Literal["extended_text"]:
        return "extended_text"

    def mark(self, response: str) -> PartMark:
        return PartMark(Verdict.NOTED, self.answer_words(response).strip())

    def answer_words(self, response: str) -> str:
        words = words_of(response)
        return words.strip() if is_rich(response) else without_marks(words.strip())

    def read_back(self, response: str) -> ReadBack:
        words = self.answer_words(response)
        return ReadBack("read", self._length(count_words(words))) if words else BLANK

    def _length(self, count: int) -> str:
        said = ngettext("{count} word.", "{count} words.", count).format(count=count)
        if self.least is None and self.most is None:
            return said
        if self.most is None:
            wanted = gettext("The question asks for at least {least}.")
        elif self.least is None:
            wanted = gettext("The question asks for at most {most}.")
        else:
            wanted = gettext("The question asks for {least} to {most}.")
        return f"{said} {wanted.format(least=self.least, most=self.most)}"

    def presented(self, html: Html) -> TextPartOut:
        return TextPartOut(
            kind="extended_text",
            id=self.id,
            label=self.label,
            least_words=self.least,
            most_words=self.most,
        )


class TextPartOut(PartOut):
    """Words asked for, where the author says so."""

    kind: Literal["extended_text"]
    least_words: int | None
    most_words: int | None

    def any_response(self) -> str:
        return "A few words."  # not said
