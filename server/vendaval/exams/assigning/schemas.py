"""What a tutor's browser gets and sends to give a test to a group."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.groups.batches import Also, SharedOut
from vendaval.groups.columns import StudyFirst
from vendaval.groups.withdrawing import WithdrawnOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict
from vendaval_core.assessment.paper import MOST_MINUTES, USUAL_MINUTES, PagesWanted


class StateCountsOut(BaseModel):
    """How many learners of a group stand where with a test. left: begun, and nothing for an hour;
    told apart from never opened."""

    not_begun: int
    under_way: int
    left: int
    waiting: int
    marked: int


class GroupTestOut(BaseModel):
    """A test given to a group, or to so many `learners` of it. `mean`: of the marked attempts that
    count, per cent."""

    id: int
    test: int
    title: str
    questions: int
    points: str
    learners: int
    whole_group: bool
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    states: StateCountsOut
    mean: str | None


class GroupTestsOut(BaseModel):
    group: str
    course: str
    tests: list[GroupTestOut]
    withdrawn: list[WithdrawnOut]


class GiveIn(Strict):
    """How a test is given. `mirror_early`: whether its mirror may be tried before the attempts are
    used up; `learners`: to whom, or null for the whole group; `first`: what to study before."""

    opens: datetime | None = None
    due: datetime | None = None
    closes: datetime | None = None
    pages: PagesWanted = PagesWanted.NONE
    pages_minutes: Annotated[int, Field(ge=1, le=MOST_MINUTES)] = USUAL_MINUTES
    mirror_early: bool = False
    learners: Annotated[list[int], Field(min_length=1, max_length=400)] | None = None
    first: Annotated[list[StudyFirst], Field(max_length=12)] = []


class GiveTestIn(GiveIn):
    """A test of the course to be given to a group, and to `also` others of the same tutor."""

    test: int
    also: Also = []


class ChangeGivenIn(GiveIn, Edited):
    """How a test is given, changed."""


class GivenTestOut(GiveIn):
    """How a test was given. `warning`: what a change would not do any more, and for whom.
    `shared`: the same test in other groups, given at once."""

    id: int
    test: int
    title: str
    warning: str
    shared: list[SharedOut]
    version: str


class GiveCheckOut(BaseModel):
    """What giving a test would be: by field what cannot be, with the reason; `minutes`: it takes
    this group, from its own pace; `says`: on what these are made from; `mirror_says`: what its
    mirror would show if it may be tried early."""

    problems: dict[str, str]
    learners: int
    minutes: int
    says: str
    mirror_says: str


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


class StudyStepOut(BaseModel):
    """A study section of set work, by keys. `opened`: whether the learner has read it."""

    topic: str
    section: str
    title: str
    minutes: int
    opened: bool
