"""Answers that no rule can mark: what a text, a sketch and files have in common.

They are kept, shown beside the author's model answer, and counted where a person marks them.
"""

from __future__ import annotations

import re
from abc import abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from vendaval_core.language import gettext

from ..fields import Strict, Text
from ..files import FileRules
from ..mark import PartMark, Verdict
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


def without_marks(text: str) -> str:
    """Return a text without the signs by which texts used to be made bold or italic."""
    return _EMPHASIS.sub(r"\2", text)


class CriterionModel(Strict):
    """What a marker looks for, and its points."""

    says: Text
    points: int = Field(ge=1, le=20)


class PersonPart(Part):
    """`model`: a good answer. `criteria`: by which a person marks it, if any."""

    marked_by_rule: ClassVar[bool] = False
    model: Text
    criteria: list[CriterionModel] = Field(default_factory=list, max_length=12)

    def criteria_of(self) -> tuple[Criterion, ...]:
        """The criteria, as a key has them."""
        return tuple(Criterion(one.says, one.points) for one in self.criteria)


@dataclass(frozen=True, slots=True)
class PersonKey(WrongAsExample, OnePiece, NoFigure, NoAxes, NotTyped, NotChosen, Canonical):
    """An answer that is kept, and marked by a person if at all."""

    id: str
    label: str
    model: str
    criteria: tuple[Criterion, ...] = ()

    @property
    @abstractmethod
    def kind(self) -> Kind:
        """As the browser knows it."""

    @property
    def files(self) -> FileRules | None:
        return None

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
        return response.strip()

    def foreseen(self) -> Iterator[Foreseen]:
        yield from ()

    def texts(self) -> Iterator[str]:
        yield self.label
        yield self.model
        yield from (one.says for one in self.criteria)

    def faults(self) -> Iterator[str]:
        yield from ()
