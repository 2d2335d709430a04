"""What a tutor's browser gets and sends to set a test."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut, QuestionOut
from vendaval.work.schemas import Strict
from vendaval_core.assessment.paper import MOST_MINUTES, USUAL_MINUTES, PagesWanted

from .kept import CompositionData, Name, RulesData, Text
from .schemas import LineOut


class StateCountsOut(BaseModel):
    """How many learners of a group stand where with a test. left: begun, and nothing for an hour;
    told apart from never opened."""

    not_begun: int
    under_way: int
    left: int
    waiting: int
    marked: int


class GroupTestOut(BaseModel):
    """A test given to a group. `mean`: of the marked attempts that count, per cent."""

    id: int
    title: str
    questions: int
    points: str
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    states: StateCountsOut
    mean: str | None


class GroupTestsOut(BaseModel):
    group: str
    course: str
    tests: list[GroupTestOut]
    topics: list[PlaceOut]


class FamilyLineOut(BaseModel):
    """A family of the bank, to be picked. `right`: per cent of first tries, once there are some."""

    key: str
    title: str
    topic: PlaceOut
    kinds: list[str]
    essential: bool
    versions: int
    seconds: int
    difficulty: float


class BankOut(BaseModel):
    """Families that a search found, the first of them; `total`: of all."""

    total: int
    families: list[FamilyLineOut]


class FamilyPreviewOut(BaseModel):
    """A version of a family with its answers, as a tutor sees it."""

    question: QuestionOut


class SetTestIn(Strict):
    """A test to be set for a group."""

    title: Name
    directions: Text = ""
    materials: Annotated[str, Field(max_length=400)] = ""
    composition: CompositionData
    rules: RulesData
    opens: datetime | None = None
    due: datetime | None = None
    closes: datetime | None = None
    pages: PagesWanted = PagesWanted.NONE
    pages_minutes: Annotated[int, Field(ge=1, le=MOST_MINUTES)] = USUAL_MINUTES


class AllowanceIn(Strict):
    """What a learner is allowed beside the rules; without a date, the group's. `times`: the time;
    `minutes`: more of it on top; `attempts`: more of them."""

    learner: int
    times: Annotated[float, Field(ge=1, le=4)] = 1.0
    minutes: Annotated[float, Field(ge=0, le=600)] = 0.0
    attempts: Annotated[int, Field(ge=0, le=50)] = 0
    opens: datetime | None = None
    due: datetime | None = None
    closes: datetime | None = None
    why: Annotated[str, Field(min_length=3, max_length=200)]


class AllowanceOut(BaseModel):
    """What a learner is allowed, by whom and why."""

    times: float
    minutes: float
    attempts: int
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    by: str
    why: str
    at: datetime


class TestCheckOut(BaseModel):
    """What a test would be: its rules in words, and by field what cannot be, with the reason.
    `minutes`: it takes by what its questions need."""

    lines: list[LineOut]
    problems: dict[str, str]
    questions: int
    points: str
    minutes: int
