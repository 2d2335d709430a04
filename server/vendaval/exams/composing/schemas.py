"""What the browser of whoever composes tests gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut, QuestionOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict

from ..columns import CompositionData, Name, ReleaseData, RulesData, Text


class FamilyLineOut(BaseModel):
    """A family of the bank, to be picked. own: of a group of the asker's, and not the course's."""

    key: str
    title: str
    topic: PlaceOut
    kinds: list[str]
    essential: bool
    versions: int
    seconds: int
    difficulty: float
    own: bool


class BankOut(BaseModel):
    """Families that a search found, the first of them; `total`: of all."""

    total: int
    families: list[FamilyLineOut]


class FamilyPreviewOut(BaseModel):
    """A version of a family with its answers, as a tutor sees it."""

    question: QuestionOut


class StoppingOut(BaseModel):
    """A question that may be faulty. `means`: what stopping it would mean now; `can`: whether it is
    asked, or was stopped by hand."""

    family: str
    stopped: bool
    why: str
    by: str
    at: datetime | None
    means: list[str]
    can: bool


class StopIn(Strict):
    """Why a question is not asked any more."""

    why: Annotated[str, Field(min_length=3, max_length=300)]


class ComposedIn(Strict):
    """A test to be composed, or what one is to be now."""

    title: Name
    directions: Text = ""
    materials: Annotated[str, Field(max_length=400)] = ""
    composition: CompositionData
    rules: RulesData


class ChangeTestIn(ComposedIn, Edited):
    """A test changed."""


class TestCheckOut(BaseModel):
    """What a test would be: its rules in words, and by field what cannot be, with the reason.
    `warnings`: what may be so and is worth a thought; `minutes`: what its questions need."""

    lines: list[LineOut]
    problems: dict[str, str]
    warnings: list[str]
    questions: int
    points: str
    minutes: int


class ForecastOut(BaseModel):
    """What a test would bring in a group. lines: results in words; mean, low, high: per cent.
    minutes: of the learner in the middle, slowest: of the slowest. covered, others: topics it asks
    about, and others that are taught."""

    learners: int
    lines: list[str]
    mean: int | None
    low: int | None
    high: int | None
    minutes: int
    slowest: int
    time_says: str
    covered: list[str]
    others: list[str]


class ComposedLineOut(BaseModel):
    """A test of the course. `own`: whether the asker may change it; `given`: to how many groups and
    learners it was given; `begun`: how many learners have begun it."""

    id: int
    title: str
    by: str
    own: bool
    questions: int
    points: str
    minutes: int
    given: int
    begun: int
    made_at: datetime


class StudyLineOut(BaseModel):
    """A study section of the course."""

    topic: PlaceOut
    section: str
    title: str
    minutes: int


class ComposingOut(BaseModel):
    """Courses that somebody composes tests for."""

    courses: list[PlaceOut]


class StoppedOut(BaseModel):
    """A question that nobody is asked now, by whom and why it was stopped."""

    family: str
    title: str
    why: str
    by: str
    at: datetime


class ComposedListOut(BaseModel):
    """Tests of a course, the newest first, and what there is to pick from. `stopped`: questions
    that somebody stopped. `release_same`,
    `release_own`: when things are told unless somebody decides otherwise, with the same numbers for
    everyone and with own ones."""

    course: str
    subjects: list[PlaceOut]
    tests: list[ComposedLineOut]
    topics: list[PlaceOut]
    study: list[StudyLineOut]
    stopped: list[StoppedOut]
    release_same: ReleaseData
    release_own: ReleaseData


class ComposedOut(BaseModel):
    """A test as it was composed. `titles`: of its question families, by key; `warning`: what a
    change would not do any more, and for whom."""

    line: ComposedLineOut
    directions: str
    materials: str
    composition: CompositionData
    rules: RulesData
    titles: dict[str, str]
    warning: str
    version: str


class LineOut(BaseModel):
    about: str
    says: str
