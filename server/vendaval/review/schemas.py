"""What Review shows."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from vendaval.delivery.schemas import PlaceOut, QuestionOut, StudyLinkOut, WorkingAreaOut
from vendaval.work.models import Purpose

from .models import MissState


class MissOut(BaseModel):
    """A line of the list. `sure`: the confidence given, in per cent."""

    id: int
    title: str
    sure: int | None
    purpose: Purpose
    at: datetime
    failed_mends: int


class MissTopicOut(BaseModel):
    topic: PlaceOut
    misses: list[MissOut]


class MissListOut(BaseModel):
    total: int
    shown: int
    topics: list[MissTopicOut]


class ComparisonOut(BaseModel):
    """One part, or one of its pieces: what was answered and what is right, in words; null while
    it may not be told."""

    label: str
    answered: str
    right_answer: str | None
    right: bool | None
    says: str | None


class MissDetailOut(BaseModel):
    """A miss with its question as it was. `given`: the first response to each part. `mend_note`
    says why no fresh one is offered now, `says` what is said of parts compared piece by piece."""

    id: int
    state: MissState
    question: QuestionOut
    given: dict[str, str]
    comparison: list[ComparisonOut]
    says: list[str]
    sure: int | None
    seconds: int
    at: datetime
    purpose: Purpose
    solution: list[str]
    source: str | None
    study: StudyLinkOut
    mends_left: int
    mend_note: str | None
    working: WorkingAreaOut | None
    failed_mends: int
