"""What Today, Topics and a topic's page show."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval.bank.models import ResourceKind
from vendaval.delivery.schemas import PlaceOut, ReadingOut, StudyLinkOut
from vendaval.record.schemas import TryLineOut
from vendaval.work.models import Purpose
from vendaval.work.schemas import IdeaOut
from vendaval_core.items.presented import FigureOut
from vendaval_core.mastery.reached import TopicState

from .models import CalendarKey

StepKey = Annotated[str, Field(max_length=140, pattern=r"^[a-z_]+(:[a-z0-9._-]+)?$")]


class StepOut(BaseModel):
    """A next step. `key`: what it is put off by. `run`: the run to carry on; `topic`: topic or
    subject key. `fewest`, `most`: questions, where `questions` is a forecast."""

    key: str
    kind: Literal[
        "carry_on", "diagnose", "practise", "review", "study", "recheck", "freshen", "spell"
    ]
    title: str
    reason: str
    minutes: int
    questions: int
    fewest: int | None
    most: int | None
    topic: str | None
    run: int | None
    study: StudyLinkOut | None
    reading: ReadingOut | None
    past: list[float]


class UnderWayOut(BaseModel):
    id: int
    purpose: Purpose
    title: str
    answered: int
    touched_at: datetime


class PutAsideOut(BaseModel):
    """A step that was put off to a day, or turned down where there is none."""

    key: str
    title: str
    until: date | None


class PutAsideIn(BaseModel):
    """Put a step off to a day, or turn it down where there is none."""

    model_config = ConfigDict(extra="forbid")
    step: StepKey
    title: str = Field(min_length=1, max_length=160)
    until: date | None = None


class BringBackIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    step: StepKey


class ComingOut(BaseModel):
    """What a day to come brings."""

    on: date
    kind: Literal["recheck", "put_off", "exam"]
    title: str


class TopicLineOut(BaseModel):
    """A topic in a list. `state`: what is plainly so, "check" for a target that was met and has
    become doubtful or did not hold, "secure" for one that held, "not_yet" for one that has not
    been taught so far; `met_at`: when it was met,
    `recheck_at`: when it is checked next."""

    key: str
    title: str
    subject: str
    reading: ReadingOut
    past: list[float]
    covered: int
    essential: int
    misses: int
    answers: int
    state: TopicState
    first_estimate: bool
    met_at: datetime | None
    recheck_at: datetime | None
    waits_for: list[str]


class SubjectOut(BaseModel):
    key: str
    title: str
    topics: list[TopicLineOut]


class TodayOut(BaseModel):
    """What a learner arrives on."""

    greeting: str
    lead: str
    steps: list[StepOut]
    under_way: list[UnderWayOut]
    coming: list[ComingOut]
    put_aside: list[PutAsideOut]
    exam_on: date | None
    pace: str
    subjects: list[SubjectOut]
    misses: int
    course: str
    day: date


class TopicsOut(BaseModel):
    headline: str
    subjects: list[SubjectOut]
    under_way: list[UnderWayOut]


class LevelPointOut(BaseModel):
    """A level as it was shown. `recalibrated`: new curves made it, not an answer."""

    at: datetime
    reading: ReadingOut
    recalibrated: bool


class OutlookOut(BaseModel):
    """What the next answer would do, and what would settle the level."""

    sentence: str
    if_right: ReadingOut
    if_missed: ReadingOut


class TopicAnswerOut(BaseModel):
    """An answer that made the level and what it changed."""

    at: datetime
    title: str
    result: Literal["right", "partly", "wrong", "not_taught"]
    purpose: Purpose
    weight: float
    weight_reason: str
    before: float | None
    after: float | None


class TopicPageOut(BaseModel):
    line: TopicLineOut
    target_sentence: str
    history: list[LevelPointOut]
    answers: list[TopicAnswerOut]
    answers_note: str
    pace_says: str
    outlook: OutlookOut
    ideas: list[IdeaOut]
    sections: list[StudyLinkOut]


class StudySectionOut(BaseModel):
    key: str
    title: str
    minutes: int


class ResourceOut(BaseModel):
    """A film, a file or a link beside a section. `address`: where it is to be had once the section
    was opened; `captions`: of a film."""

    key: str
    title: str
    kind: ResourceKind
    minutes: int
    address: str
    captions: str | None


class StudyTextOut(BaseModel):
    """A section that was opened: help, from now on, for the questions that it explains."""

    key: str
    title: str
    html: str
    figure: FigureOut | None
    resources: list[ResourceOut]


class StudyPageOut(BaseModel):
    topic: PlaceOut
    subject: str
    sections: list[StudySectionOut]


class OwnQuestionsOut(BaseModel):
    """Questions that the learner's own groups have, by key, and the topics they belong to."""

    families: list[str]
    topics: list[str]


class PracticePlanOut(BaseModel):
    """Topics to practise, best first, each with its reason; and those whose target is met. own:
    null where no group of the learner has questions of its own."""

    under_way: list[UnderWayOut]
    steps: list[StepOut]
    met: list[TopicLineOut]
    pace: str
    own: OwnQuestionsOut | None


class CalendarOut(BaseModel):
    """Where a private calendar is read, as a path; null when there is none."""

    address: str | None

    @classmethod
    def of(cls, key: CalendarKey | None) -> CalendarOut:
        return cls(address=None if key is None else f"/api/calendar/{key.key}.ics")


class SearchOut(BaseModel):
    """What was found for some words: topics, titles of study sections, and questions of one's own,
    the latest first."""

    words: str
    topics: list[PlaceOut]
    sections: list[StudyLinkOut]
    tries: list[TryLineOut]
