"""What Review shows."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vendaval.delivery.schemas import PlaceOut, QuestionOut, StudyLinkOut, WorkingAreaOut
from vendaval.work.models import Purpose

from .models import MissState
from .run import MissOrder


class MissOut(BaseModel):
    """A line of the list. `sure`: the confidence given, in per cent."""

    id: int
    title: str
    topic: PlaceOut
    sure: int | None
    purpose: Purpose
    at: datetime
    failed_mends: int


class MissTopicOut(BaseModel):
    """Misses of a topic, or of all in another order."""

    topic: PlaceOut | None
    misses: list[MissOut]


class MissListOut(BaseModel):
    """`set_aside`: the latest that were set aside, to be taken up again."""

    order: MissOrder
    total: int
    shown: int
    topics: list[MissTopicOut]
    set_aside: list[MissOut]


class RevisionItemOut(BaseModel):
    """A study section that explains what was missed. `answers`: titles of those misses. `families`:
    ideas it explains, to practise. `resources`: titles of
    films, files and links beside it. `read_at`: when it was opened last since they were missed.
    `studied`: whether the learner marked it."""

    study: StudyLinkOut
    topic: PlaceOut
    answers: list[str]
    families: list[str]
    resources: list[str]
    read_at: datetime | None
    studied: bool


class RevisionOut(BaseModel):
    """What to study for the misses, that which answers most first. `minutes`: of what is left."""

    misses: int
    minutes: int
    items: list[RevisionItemOut]


class StudiedIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    topic: Annotated[str, Field(max_length=50)]
    section: Annotated[str, Field(max_length=50)]
    studied: bool


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
