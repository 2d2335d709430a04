"""An answer that no rule can mark: a text, a sketch, or work on paper.

It is kept, shown beside the author's model answer, and counted where a person marks it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..fields import Strict, Text, Values
from ..mark import PartMark, Verdict
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill
from .common import (
    Canonical,
    NoAxes,
    NoFigure,
    NotChosen,
    NotTyped,
    OnePiece,
    WrongAsExample,
)
from .protocol import Criterion, Examples, Foreseen, MarkedByPerson, Part

Kind = Literal["extended_text", "drawing", "upload"]
_EMPHASIS = re.compile(r"(\*\*|\*)(\S(?:.*?\S)?)\1")


class CriterionModel(Strict):
    """What a marker looks for, and its points."""

    says: Text
    points: int = Field(ge=1, le=20)


class WrittenPart(Part):
    """`model`: a good answer. `criteria`: by which a person marks it, if any."""

    marked_by_rule: ClassVar[bool] = False
    kind: Kind
    model: Text
    criteria: list[CriterionModel] = Field(default_factory=list, max_length=12)

    def key(self, values: Values, stream: SeededStream) -> WrittenKey:
        criteria = tuple(Criterion(one.says, one.points) for one in self.criteria)
        model, label = fill(self.model, values), fill(self.label, values)
        return WrittenKey(self.id, label, self.kind, model, criteria)


@dataclass(frozen=True, slots=True)
class WrittenKey(WrongAsExample, OnePiece, NoFigure, NoAxes, NotTyped, NotChosen, Canonical):
    """An answer that is kept, and marked by a person if at all."""

    id: str
    label: str
    kind: Kind
    model: str
    criteria: tuple[Criterion, ...] = ()

    @property
    def units(self) -> int:
        return 0

    @property
    def guess_chance(self) -> float:
        return 0.0

    @property
    def by_person(self) -> MarkedByPerson:
        return MarkedByPerson(self.kind, self.criteria)

    @property
    def examples(self) -> Examples:
        return Examples(self.model, gettext("something else"), None, None)

    def mark(self, response: str) -> PartMark:
        return PartMark(Verdict.NOTED, response.strip())

    def right_words(self) -> str:
        return self.model

    def answer_words(self, response: str) -> str:
        text = response.strip()
        return _EMPHASIS.sub(r"\2", text) if self.kind == "extended_text" else text

    def foreseen(self) -> Iterator[Foreseen]:
        yield from ()

    def texts(self) -> Iterator[str]:
        yield self.label
        yield self.model
        yield from (one.says for one in self.criteria)

    def faults(self) -> Iterator[str]:
        yield from ()

    def presented(self, html: Html) -> WrittenPartOut:
        return WrittenPartOut(kind=self.kind, id=self.id, label=self.label)


class WrittenPartOut(PartOut):
    """Kept and not marked."""

    kind: Kind

    def any_response(self) -> str:
        return "A few words."  # not said
