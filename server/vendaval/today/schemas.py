"""What Today, Topics and a topic's page show."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Schema

from vendaval.evidence.models import Purpose
from vendaval.evidence.schemas import PlaceOut, ReadingOut, StudyLinkOut


class StepOut(Schema):
    """A next step. `run`: the run to carry on; `topic`: topic or subject key."""

    kind: Literal["carry_on", "diagnose", "practise", "review", "study"]
    title: str
    reason: str
    minutes: int
    questions: int
    topic: str | None
    run: int | None
    study: StudyLinkOut | None
    reading: ReadingOut | None
    past: list[float]


class UnderWayOut(Schema):
    id: int
    purpose: Purpose
    title: str
    answered: int
    touched_at: datetime


class TopicLineOut(Schema):
    """A topic in a list. `state`: what is plainly so; `met_at`: when the target was met."""

    key: str
    title: str
    subject: str
    reading: ReadingOut
    past: list[float]
    covered: int
    essential: int
    misses: int
    answers: int
    state: Literal["unknown", "working", "met"]
    met_at: datetime | None
    waits_for: list[str]


class SubjectOut(Schema):
    key: str
    title: str
    topics: list[TopicLineOut]


class TodayOut(Schema):
    greeting: str
    lead: str
    steps: list[StepOut]
    under_way: list[UnderWayOut]
    subjects: list[SubjectOut]
    misses: int
    course: str


class TopicsOut(Schema):
    headline: str
    subjects: list[SubjectOut]
    under_way: list[UnderWayOut]


class LevelPointOut(Schema):
    at: datetime
    reading: ReadingOut


class TopicAnswerOut(Schema):
    """An answer that made the level and what it changed."""

    at: datetime
    title: str
    result: Literal["right", "partly", "wrong", "not_taught"]
    purpose: Purpose
    weight: float
    weight_reason: str
    before: float | None
    after: float | None


class TopicPageOut(Schema):
    line: TopicLineOut
    target_sentence: str
    history: list[LevelPointOut]
    answers: list[TopicAnswerOut]
    sections: list[StudyLinkOut]


class StudySectionOut(Schema):
    key: str
    title: str
    minutes: int
    html: str


class StudyPageOut(Schema):
    topic: PlaceOut
    subject: str
    sections: list[StudySectionOut]


class PracticePlanOut(Schema):
    """Topics to practise, best first, each with its reason; and those whose target is met."""

    under_way: list[UnderWayOut]
    steps: list[StepOut]
    met: list[TopicLineOut]
