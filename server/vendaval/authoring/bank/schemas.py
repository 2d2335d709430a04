"""The bank as authors' browsers ask for it and get it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut
from vendaval.work.schemas import Strict

Sorting = Literal[
    "needs", "title", "topic", "apart", "answers", "right", "difficulty", "took", "separates"
]
Standing = Literal["all", "needs", "drafts", "unmeasured", "stopped", "essential", "groups"]


class BankFilter(Strict):
    """Which families of a bank, in which order."""

    words: Annotated[str, Field(max_length=100)] = ""
    topic: Annotated[str, Field(max_length=60)] = ""
    kind: Annotated[str, Field(max_length=40)] = ""
    show: Standing = "all"
    sort: Sorting = "needs"
    page: Annotated[int, Field(ge=1, le=400)] = 1


class NeedOut(BaseModel):
    """A family that needs its author, and why. `reports`: of faults that are open."""

    key: str
    title: str
    says: list[str]
    reports: int


class SectionNeedOut(BaseModel):
    """A study section that doesn't seem to help."""

    topic: str
    section: str
    title: str
    says: str


class BegunOut(BaseModel):
    """A question that was begun and never published."""

    key: str
    title: str
    topic: str
    at: datetime


class MeasuredOut(BaseModel):
    """A measured difficulty on the axis with the ends of its bar."""

    middle: float
    low: float
    high: float


class BankLineOut(BaseModel):
    """A family. `judged`: the author's estimate on the axis, 0 easiest to 100 hardest; `measured`:
    null while not known. `took`: times the
    estimated seconds. `separates`: how well it tells learners apart, in a word."""

    key: str
    title: str
    topic: PlaceOut
    kind: str
    essential: bool
    judged: float
    measured: MeasuredOut | None
    answers: int
    right: int | None
    took: float | None
    separates: str
    fit: float | None
    spread: float | None
    needs: list[str]
    reports: int
    tests: int
    drafted: bool
    stopped: bool
    changed_by: str
    changed_at: datetime | None


class BankPageOut(BaseModel):
    course: str
    families: int
    answers: int
    figures_at: datetime | None
    headline: str
    cards: list[NeedOut]
    sections: list[SectionNeedOut]
    begun: list[BegunOut]
    total: int
    page: int
    pages: int
    lines: list[BankLineOut]


class WrittenOut(BaseModel):
    """A course that somebody writes for, with its topics and the kinds of its questions."""

    key: str
    title: str
    topics: list[PlaceOut]
    kinds: list[str]


class WrittenListOut(BaseModel):
    courses: list[WrittenOut]
