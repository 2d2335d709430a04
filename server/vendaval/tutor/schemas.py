"""What a tutor sees of groups and learners, and sets for them."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from vendaval.delivery.schemas import PlaceOut, ReadingOut
from vendaval.groups.columns import Importance, Share, Target
from vendaval.record.schemas import WeekOut
from vendaval.shared.editing import Edited, sorted_once
from vendaval.today.schemas import SubjectOut
from vendaval_core.mastery.attention import Attention
from vendaval_core.mastery.reached import TopicState

TopicKey = Annotated[str, Field(max_length=50)]


class GroupLineOut(BaseModel):
    """A group in a list. `waiting`: help asked for and not answered yet."""

    id: int
    title: str
    course: str
    course_title: str
    learners: int
    waiting: int


class GroupsOut(BaseModel):
    groups: list[GroupLineOut]


class LevelCellOut(BaseModel):
    """One topic of one learner."""

    reading: ReadingOut
    state: TopicState
    answers: int


class LearnerRowOut(BaseModel):
    """A learner of a group. `id`: of the enrolment. `cells`: in the order of the topics."""

    id: int
    name: str
    kind: Attention
    says: str
    last_at: datetime | None
    cells: list[LevelCellOut]


class TopicColumnOut(BaseModel):
    """A topic over the group. `mean`: of the levels that are known; `known`, `met`: how many."""

    key: str
    title: str
    subject: str
    taught: bool
    mean: int | None
    known: int
    met: int


class GroupOut(BaseModel):
    """A group before a lesson. Learners who need attention come first."""

    id: int
    title: str
    course: str
    course_title: str
    headline: str
    waiting: int
    exam_on: date | None
    code: str | None
    code_ends_at: datetime | None
    topics: list[TopicColumnOut]
    learners: list[LearnerRowOut]


class TopicSettingOut(BaseModel):
    """`target`, `importance`: of the group where it sets them, else null."""

    key: str
    title: str
    subject: str
    taught: bool
    target: int | None
    course_target: int
    importance: float | None
    course_importance: float


class GroupSettingsOut(BaseModel):
    title: str
    exam_on: date | None
    tries: int
    miss_takes: Share
    asks_sure: bool
    own_aims: bool
    classmates: bool
    version: str
    topics: list[TopicSettingOut]


class GroupSettingsEdit(BaseModel):
    """All settings of a group; topics left out of `targets` and `importance` keep the course's."""

    model_config = ConfigDict(extra="forbid")
    title: str = Field(min_length=1, max_length=80)
    exam_on: date | None = None
    tries: Annotated[int, Field(ge=1, le=5)] = 3
    miss_takes: Literal["0", "1/4", "1/3", "1/2"] = "1/3"
    asks_sure: bool = True
    own_aims: bool = True
    classmates: bool = True
    targets: dict[TopicKey, Target] = {}
    importance: dict[TopicKey, Importance] = {}
    not_taught: Annotated[list[TopicKey], AfterValidator(sorted_once)] = []


class GroupSettingsIn(GroupSettingsEdit, Edited):
    """A group's settings changed."""


class SetLineOut(BaseModel):
    """Work that was set. says: its state in words. result: what came of it, as far as it may be
    told. at: for a tutor, where its attempts are; "" for none."""

    title: str
    state: str
    says: str
    due: datetime | None
    result: str
    at: str = ""


class RelatedOut(BaseModel):
    """A learner's pages as a tutor or guardian reads them. `signals`: worded as questions. `help`:
    two sentences for a guardian, on how to help."""

    id: int
    name: str
    course: str
    course_title: str
    lead: str
    exam_on: date | None
    last_at: datetime | None
    minutes_this_week: int
    minutes_before: int
    misses: int
    under_way: list[str]
    coming: list[str]
    signals: list[str]
    weeks: list[WeekOut]
    set_work: list[SetLineOut]
    help: list[str]
    subjects: list[SubjectOut]


class WardOut(BaseModel):
    """A learner's course, as their guardian may open it. `id`: of the enrolment."""

    id: int
    name: str
    course_title: str


class WardsOut(BaseModel):
    wards: list[WardOut]


class WrongAnswerOut(BaseModel):
    """Wrong answers that are one mistake: how many `learners` made it, one that was `given`, and
    what is said to it where it was foreseen."""

    learners: int
    given: str
    says: str


class MissedFamilyOut(BaseModel):
    """A family that a group missed: of so many learners who answered it, `missed` did at a first
    try."""

    key: str
    title: str
    topic: PlaceOut
    versions: int
    answered: int
    missed: int
    answers: list[WrongAnswerOut]


class LessonSectionOut(BaseModel):
    topic: PlaceOut
    section: str
    title: str
    minutes: int


class MissedOut(BaseModel):
    """What a group missed most in so many `days`, and a short lesson of it: what to `read`, which
    families to `show`, and which to `set`."""

    group: str
    course: str
    days: int
    families: list[MissedFamilyOut]
    read: list[LessonSectionOut]
    show: list[str]
    set: list[str]


class DayEntryOut(BaseModel):
    """Something on a day of a group. at: when, where it has an hour. learners: for how many a
    recheck falls due. path: where it is looked at."""

    kind: Literal["opens", "due", "closes", "recheck", "exam"]
    title: str
    at: datetime | None
    learners: int
    path: str | None


class GroupDayOut(BaseModel):
    on: date
    entries: list[DayEntryOut]


class GroupDaysOut(BaseModel):
    """A group's calendar: days that bring something, in order."""

    group: str
    today: date
    days: list[GroupDayOut]


class NoteIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(min_length=1, max_length=4000)]
    shared: bool = False


class NoteOut(BaseModel):
    """A note on a learner. `own`: whether the reader wrote it; `shared`: whether its learner reads
    it."""

    id: int
    text: str
    by: str
    own: bool
    shared: bool
    at: datetime


class NotesOut(BaseModel):
    notes: list[NoteOut]


class VoidIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    why: Annotated[str, Field(min_length=3, max_length=200)]
