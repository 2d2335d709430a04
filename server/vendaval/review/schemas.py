"""What Review shows."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from vendaval.evidence.models import MissState, Purpose
from vendaval.evidence.schemas import PlaceOut, QuestionOut, StudyLinkOut


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
    """One part: what was answered and what is right, in words."""

    label: str
    answered: str
    right_answer: str
    right: bool
    says: str | None


class MissDetailOut(BaseModel):
    """A miss with its question as it was. `given`: the first response to each part. `mend_note`
    says why no fresh one is offered now."""

    id: int
    state: MissState
    question: QuestionOut
    given: dict[str, str]
    comparison: list[ComparisonOut]
    sure: int | None
    seconds: int
    at: datetime
    purpose: Purpose
    solution: list[str]
    source: str
    study: StudyLinkOut
    mends_left: int
    mend_note: str | None
    failed_mends: int
