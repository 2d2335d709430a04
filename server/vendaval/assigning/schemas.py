"""What browsers get and send about set work that is no test."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.exams.assigning.schemas import StudyStepOut
from vendaval.exams.taking.schemas import WaitingTestOut
from vendaval.groups.batches import Also
from vendaval.groups.columns import StudyFirst
from vendaval.groups.withdrawing import WithdrawnOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict
from vendaval_core.mastery.challenge import Challenge
from vendaval_core.mastery.set_work import Standing

from .columns import AsksData, Goal


class TaskIn(Strict):
    """Work to be set. Without a title it is named after its goal. `learners`: for whom, or null for
    the whole group; `first`: what to study before."""

    title: Annotated[str, Field(max_length=120)] = ""
    goal: Goal
    opens: datetime | None = None
    due: datetime | None = None
    closes: datetime | None = None
    learners: Annotated[list[int], Field(min_length=1, max_length=400)] | None = None
    first: Annotated[list[StudyFirst], Field(max_length=12)] = []
    asks: AsksData = AsksData()


class NewTaskIn(TaskIn):
    """Work to be set for a group, and for `also` others of the same tutor."""

    also: Also = []


class ChangeTaskIn(TaskIn, Edited):
    """Set work changed."""


class TaskCheckOut(BaseModel):
    """What setting it would be: by field what cannot be, with the reason; `goal`: in words;
    `minutes`: for whoever is in the middle of these learners, and `most` for the slowest."""

    problems: dict[str, str]
    title: str
    goal: str
    learners: int
    minutes: int
    most: int


class LearnerTaskOut(BaseModel):
    """Where a learner stands with a piece of work."""

    learner: int
    name: str
    state: Standing
    done: int
    of: int
    finished: datetime | None


class GroupTaskOut(BaseModel):
    """A piece of work of a group, and where each of its learners stands. `batch`: the same for what
    was set for several groups at once, "" otherwise."""

    id: int
    title: str
    kind: str
    says: str
    goal: Goal
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    whole_group: bool
    first: list[StudyFirst]
    asks: AsksData
    to_mark: int
    learners: list[LearnerTaskOut]
    batch: str
    version: str


class GroupTasksOut(BaseModel):
    group: str
    tasks: list[GroupTaskOut]
    withdrawn: list[WithdrawnOut]


class OwnTaskOut(BaseModel):
    """A piece of work as its learner has it: `says` what it is, `made` how far it is. `topics`,
    `families`, `questions`, `subject`: what to begin it with; `study`: what to read, for it or
    before it. `hands_in`: whether something is handed in with it."""

    id: int
    title: str
    kind: str
    says: str
    made: str
    state: Standing
    can_begin: bool
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    topics: list[str]
    families: list[str]
    questions: int
    subject: str | None
    study: list[StudyStepOut]
    hands_in: bool
    first: list[StudyStepOut]


class WaitingWorkOut(BaseModel):
    """What a tutor has set and a learner can do now. challenge: whether set work has regularly been
    too hard or too easy. rehearsal: the `ref` of a test to rehearse, where one of these would be
    the learner's first."""

    tests: list[WaitingTestOut]
    tasks: list[OwnTaskOut]
    challenge: Challenge | None
    rehearsal: str | None


class OwnTasksOut(BaseModel):
    tasks: list[OwnTaskOut]
