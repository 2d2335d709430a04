"""What Today, Topics and a topic's page show."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from vendaval.delivery.part_schemas import FigureOut
from vendaval.delivery.schemas import PlaceOut, ReadingOut, StudyLinkOut
from vendaval.work.models import Purpose


class StepOut(BaseModel):
    """A next step. `run`: the run to carry on; `topic`: topic or subject key."""

    kind: Literal["carry_on", "diagnose", "practise", "review", "study", "recheck"]
    title: str
    reason: str
    minutes: int
    questions: int
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


class TopicLineOut(BaseModel):
    """A topic in a list. `state`: what is plainly so, "check" for a target that was met and has
    become doubtful or did not hold, "secure" for one that held; `met_at`: when it was met,
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
    state: Literal["unknown", "working", "met", "secure", "check"]
    met_at: datetime | None
    recheck_at: datetime | None
    waits_for: list[str]


class SubjectOut(BaseModel):
    key: str
    title: str
    topics: list[TopicLineOut]


class TodayOut(BaseModel):
    greeting: str
    lead: str
    steps: list[StepOut]
    under_way: list[UnderWayOut]
    subjects: list[SubjectOut]
    misses: int
    course: str


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
    outlook: OutlookOut
    sections: list[StudyLinkOut]


class StudySectionOut(BaseModel):
    key: str
    title: str
    minutes: int


class StudyTextOut(BaseModel):
    """A section that was opened: help, from now on, for the questions that it explains."""

    key: str
    title: str
    html: str
    figure: FigureOut | None


class StudyPageOut(BaseModel):
    topic: PlaceOut
    subject: str
    sections: list[StudySectionOut]


class PracticePlanOut(BaseModel):
    """Topics to practise, best first, each with its reason; and those whose target is met."""

    under_way: list[UnderWayOut]
    steps: list[StepOut]
    met: list[TopicLineOut]
