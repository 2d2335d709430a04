"""What a marker's browser gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import QuestionOut, WorkingAreaOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict

from ..columns import CriterionData, Exact, NoteInText
from ..models import MarkerRole

Kind = Literal["extended_text", "drawing", "upload", "paper"]


class MarkIn(Strict):
    """What a marker gives. `points`: by number of the criterion, from 0; without criteria the whole
    under 0. `after`: the newest marking of this part that the marker has seen, so that nothing of
    another's is written over unseen."""

    role: MarkerRole
    points: Annotated[dict[int, Exact], Field(max_length=12)]
    comment: Annotated[str, Field(max_length=2000)] = ""
    notes: Annotated[list[NoteInText], Field(max_length=40)] = []
    after: int | None = None


class MarkingOut(BaseModel):
    """A marking that counts. `points`: as it was given, by criterion; `reached`: of the part;
    `adjusted`: whose points were adjusted, by whom and why, "" where they weren't."""

    id: int
    role: MarkerRole
    by: str
    points: dict[int, str]
    reached: str
    comment: str
    notes: list[NoteInText]
    adjusted: str
    at: datetime


class CriterionOut(BaseModel):
    says: str
    points: int


class PartToMarkOut(BaseModel):
    """A part of an answer that a person marks. `text`: as it was written, in words; `length`: how
    long it is and was to be; `latest`: the newest
    marking of any role; `differ`: whether two markers did and nobody has settled it."""

    part: str
    label: str
    kind: Kind
    text: str
    length: str
    criteria: list[CriterionOut]
    of: int
    first: MarkingOut | None
    second: MarkingOut | None
    agreed: MarkingOut | None
    latest: int | None
    differ: bool


class AnswerToMarkOut(BaseModel):
    """One learner's answer to a question. `name`: null where names are hidden."""

    answer: int
    attempt: int
    enrolment: int
    name: str | None
    out: bool
    sheet: int | None
    pages: list[int]
    question: QuestionOut
    responses: dict[str, str]
    working: WorkingAreaOut | None
    parts: list[PartToMarkOut]


class MarkedPartOut(BaseModel):
    """A part as it is after a marking: what of it is all that changed."""

    answer: int
    part: PartToMarkOut


class QuestionToMarkOut(BaseModel):
    """A question of a test with every answer to it that a person marks. `own_criteria`: parts that
    have a tutor's; `criteria_versions`: by part, to change them."""

    test: str
    group: str
    family: str
    title: str
    role: MarkerRole
    own_criteria: list[str]
    criteria_versions: dict[str, str]
    answers: list[AnswerToMarkOut]


class MarkedQuestionOut(BaseModel):
    """How far the marking of a question is. `agreement`: weighted kappa of two markers."""

    family: str
    title: str
    parts: int
    marked: int
    differ: int
    agreement: float | None


class MarkedAttemptOut(BaseModel):
    """How far the marking of an attempt is. `out`: whether its marks are; `changed`: whether it was
    marked otherwise since."""

    attempt: int
    name: str
    parts: int
    marked: int
    differ: int
    out: bool
    changed: bool


class TutorLineOut(BaseModel):
    id: int
    name: str


class MarkerLineOut(BaseModel):
    """Somebody whose points count. `above`: by how many points of an answer they are above the
    other marker where both marked, on the mean; null where that was never."""

    id: int
    name: str
    answers: int
    above: float | None


class MarkingQueueOut(BaseModel):
    """What of a test waits for a person: question by question, and attempt by attempt.
    `second_version`: to change who marks a second time."""

    test: str
    group: str
    role: MarkerRole
    second: TutorLineOut | None
    sample: int | None
    markers: list[MarkerLineOut]
    second_version: str
    tutors: list[TutorLineOut]
    questions: list[MarkedQuestionOut]
    attempts: list[MarkedAttemptOut]


class WaitingTestLineOut(BaseModel):
    """A test with answers that wait for a person. `waiting`: parts nobody has marked; `held`:
    attempts that are marked and whose marks are not out."""

    group: int
    group_title: str
    assignment: int
    test: str
    waiting: int
    held: int
    since: datetime


class WaitingMarksOut(BaseModel):
    """What waits for a tutor over all groups, the longest waiting first."""

    tests: list[WaitingTestLineOut]


class CriteriaEdit(Strict):
    """A tutor's criteria for a part; none puts the author's own back."""

    criteria: Annotated[list[CriterionData], Field(max_length=12)]


class CriteriaIn(CriteriaEdit, Edited):
    """A part's criteria changed."""


class SecondMarkerEdit(Strict):
    """Who marks a second time, or nobody; and how many attempts, or null for all."""

    person: int | None
    sample: Annotated[int, Field(ge=1, le=400)] | None = None


class SecondMarkerIn(SecondMarkerEdit, Edited):
    """The second marker changed."""


class AdjustIn(Strict):
    """How many points are added to (or taken from) each answer that a marker marked, and why."""

    marker: int
    points: Exact
    why: Annotated[str, Field(min_length=3, max_length=200)]


class ReleaseIn(Strict):
    """Attempts whose marks are released, or null for all that are marked. `waived`: why
    those named go out without the second marking."""

    attempts: Annotated[list[int], Field(max_length=400)] | None = None
    waived: Annotated[str, Field(max_length=200)] = ""


class PersonMarkOut(BaseModel):
    """What a person gave a part, as its learner sees it once marks are out. `noted_html`: the text
    with the places of its comments, where it has some."""

    part: str
    label: str
    noted_html: str | None
    criteria: list[CriterionOut]
    points: dict[int, str]
    reached: str
    of: int
    comment: str
    notes: list[NoteInText]
