"""What a kind of part is: the part as its author writes it, and its key in one version.

All that differs from kind to kind is asked of these two, so that nothing else needs to know which
kind it has at hand. docs/adding-a-kind.md goes through them with an example. A response is text:
a choice's id, what was typed, or one value a line in QTI 3's own writing of it (an identifier, a
pair `a b`, a point `x y`).
"""

from __future__ import annotations

import random
from abc import abstractmethod
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import ClassVar, Literal, Protocol

from ..drawn import Picture
from ..fields import PartId, Strict, Values
from ..files import FileRules
from ..mark import PartMark, Piece, ReadBack
from ..presented import Html, PartOut
from ..randomness import SeededStream


@dataclass(frozen=True, slots=True)
class Examples:
    """Responses of a known kind, as a learner would give them.

    wrong: readable and not wholly right. partly: marked as partly right, None for a kind or a key
    without part credit. unreadable: that, or incomplete; None where anything that is typed can be
    read.
    """

    right: str
    wrong: str
    partly: str | None
    unreadable: str | None


@dataclass(frozen=True, slots=True)
class Foreseen:
    """A wrong answer that the author foresees: in words, as a response that makes it, and what is
    said to it ("" for nothing)."""

    words: str
    response: str
    says: str


@dataclass(frozen=True, slots=True)
class Token:
    """Something to put in a place, to order or to join. The id belongs to one order."""

    id: str
    text: str


@dataclass(frozen=True, slots=True)
class Criterion:
    """What a marker looks for, and the points it is worth, at least 1."""

    says: str
    points: int


@dataclass(frozen=True, slots=True)
class MarkedByPerson:
    """That no rule marks a part: how a marker is shown it, and by what it is marked."""

    shown_as: Literal["extended_text", "drawing", "upload"]
    criteria: tuple[Criterion, ...]


class Key(Protocol):
    """A part of one version: what is shown, what is right, and how an answer is judged."""

    @property
    def id(self) -> str:
        """Unique in its question."""

    @property
    def label(self) -> str:
        """Its name where a question has several parts, else ""."""

    @property
    def kind(self) -> str:
        """As the browser knows it: the name of a QTI 3 interaction, or our own."""

    @property
    def units(self) -> int:
        """How many things it scores one by one: 1 without part credit, 0 when no rule marks it."""

    @property
    def guess_chance(self) -> float:
        """Chance from 0 to 1 of a lucky wholly right answer; 0 for what is typed or placed."""

    @property
    def by_person(self) -> MarkedByPerson | None:
        """How a person marks it, None where a rule does."""

    @property
    def files(self) -> FileRules | None:
        """Which files it takes, None where it takes none."""

    @property
    def figure(self) -> Picture | None:
        """What it is answered on, if on a figure."""

    @property
    def examples(self) -> Examples:
        """Responses that must be marked as what they are."""

    def mark(self, response: str) -> PartMark:
        """The mark of a response. Never raises for what a learner sends."""

    def read_back(self, response: str) -> ReadBack:
        """How a response is read, worked out from nothing that tells what is right: a learner sees
        it while a test goes on. Quick, whatever was typed."""

    def right_words(self) -> str:
        """The right answer in words."""

    def answer_words(self, response: str) -> str:
        """A response in words, whatever was sent; "" or "nothing" for an empty one."""

    def pieces(self, response: str) -> list[Piece]:
        """Its pairs, cells, gaps or points, given beside right; [] when an answer is one piece."""

    def same_answer(self, response: str, canonical: str) -> str:
        """What tells an answer from others in every order of the same version.

        canonical: the response as `mark` read it.
        """

    def wrong_choices(self, response: str) -> Fraction:
        """Wrong choices made, for tests that take points off for them: a whole choice counts 1, one
        drop-down of n counts 1/n, what is not chosen from a list 0."""

    def right_points(self) -> Sequence[tuple[float, float]]:
        """Where points belong on its axes, to be drawn beside those given; [] without axes."""

    def right_when_typed(self, text: str) -> bool:
        """Whether a text, typed back from the prompt, would be right though nobody worked it
        out."""

    def usual_forms(self) -> Iterator[str]:
        """Other ways in which people type the right answer; nothing where nothing is typed."""

    def likely_wrong(self, rng: random.Random) -> str:
        """A wrong response of the sort that people give, for simulated learners."""

    def foreseen(self) -> Iterator[Foreseen]:
        """The wrong answers that its author foresees."""

    def texts(self) -> Iterator[str]:
        """Every sentence of it that a learner may read, for the checks of language."""

    def faults(self) -> Iterator[str]:
        """What keeps it from being asked and answered: twins, slips that are right, places out of
        reach. That its examples are marked as they should be is checked for all kinds alike."""

    def presented(self, html: Html) -> PartOut:
        """What the browser may see of it before it is answered. html: of one line of Markdown."""

    def right_in_order(self) -> tuple[str, ...] | None:
        """Ids of what is right when choices are shown in the order they are written in; None when
        they are mixed, or there are none. A family must not have the same ones in every version."""


class Part(Strict):
    """A part as its author writes it in a family's file. The model of its kind checks the fields,
    so that a wrong one is reported with its line. label: a template, for a question with several
    parts."""

    kind: str
    id: PartId
    label: str = ""
    marked_by_rule: ClassVar[bool] = True
    """Whether any rule marks it: known without making a version, for lists of what waits."""

    @property
    def called(self) -> str:
        """Its kind in a list of questions: of text entries what is typed."""
        return str(getattr(self, "value", self.kind)).replace("_", " ")

    @abstractmethod
    def key(self, values: Values, stream: SeededStream) -> Key:
        """The part in one version. values: of its variables. stream: for the order of choices.

        Raises ExpressionError for what cannot be worked out.
        """
