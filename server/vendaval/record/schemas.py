"""The record: every run and try, what they came to, and how sure and how fast they were."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel

from vendaval.delivery.schemas import PlaceOut, QuestionOut, ReadingOut, WorkingAreaOut
from vendaval.work.models import Purpose

Result = Literal["right", "partly", "wrong", "not_taught", "waiting"]


class TryLineOut(BaseModel):
    """One try. `number`: of the tries at this question. `needed`: seconds such questions take.
    `sure`: confidence in per cent. `counts`: whether it moved the level, and `why` not."""

    id: int
    at: datetime
    title: str
    topic: PlaceOut
    purpose: Purpose
    number: int
    result: Result
    share: float
    seconds: int
    needed: int
    sure: int | None
    counts: bool
    why: str


class TriesOut(BaseModel):
    """A page of tries, the latest first. `older`: id to ask for older ones with."""

    total: int
    tries: list[TryLineOut]
    older: int | None


class VoidedOut(BaseModel):
    """That a try counts for no level, who said so and why."""

    by: str
    why: str
    at: datetime


class TryOut(BaseModel):
    """One try with its question as it was, as far as it may be told. `voided`: whether it counts
    for no level."""

    line: TryLineOut
    voided: VoidedOut | None
    question: QuestionOut
    given: dict[str, str]
    working: WorkingAreaOut | None


class ConfidenceStepOut(BaseModel):
    """Answers given with one confidence, in per cent, and the per cent that was right."""

    said: int
    answers: int
    right: int


class CalibrationOut(BaseModel):
    """Brier score and its parts (Murphy 1973): score = reliability - resolution + uncertainty."""

    answers: int
    score: float
    reliability: float
    resolution: float
    uncertainty: float
    steps: list[ConfidenceStepOut]
    sentence: str


class SpeedOut(BaseModel):
    """A topic's first tries: median seconds, seconds they need on the whole, per cent right."""

    topic: PlaceOut
    answers: int
    seconds: int
    needed: int
    right: int


class WeekOut(BaseModel):
    """A week from its Monday: minutes on answers, questions answered."""

    on: date
    minutes: int
    answers: int


class WeekLevelOut(BaseModel):
    on: date
    reading: ReadingOut


class EventOut(BaseModel):
    """What happened to a topic."""

    on: date
    kind: Literal["met", "held", "lost"]
    says: str


class TopicWeeksOut(BaseModel):
    """A topic's level now, and at the end of each week in which it moved, oldest first."""

    topic: PlaceOut
    reading: ReadingOut
    weeks: list[WeekLevelOut]
    events: list[EventOut]


class RunLineOut(BaseModel):
    id: int
    purpose: Purpose
    title: str
    started_at: datetime
    ended: bool
    answered: int


class RecordOut(BaseModel):
    """The whole record in figures; its tries are asked for page by page."""

    name: str
    course: str
    headline: str
    tries: int
    minutes: int
    weeks: list[WeekOut]
    topics: list[TopicWeeksOut]
    calibration: CalibrationOut
    speed: list[SpeedOut]
    runs: list[RunLineOut]
    filters: list[PlaceOut]
