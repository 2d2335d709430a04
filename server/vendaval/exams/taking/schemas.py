"""What the browser gets and sends about tests and attempts."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, field_validator

from vendaval.delivery.schemas import PlaceOut, QuestionOut, ReadBackOut, ReadingOut
from vendaval.shared.responses import tidied_responses
from vendaval.work.schemas import Strict
from vendaval_core.assessment.navigation import Onward
from vendaval_core.assessment.paper import PagesState, PagesWanted
from vendaval_core.assessment.rules import SubmissionMode, Tool

from ..assigning.schemas import StudyStepOut
from ..columns import SoFarData
from ..composing.schemas import LineOut

WorkState = Literal[
    "not_open", "not_begun", "under_way", "handed_in", "waiting", "marked", "late", "closed"
]
AnswerState = Literal["not_seen", "empty", "partly", "unreadable", "answered", "sent", "paper"]


class EarnedOut(BaseModel):
    """Points so far: `reached` of those `marked`, `of` in all; texts with at most two decimals.
    `waiting`: questions still to be marked. Per cent, band and the
    verdict in words only when nothing waits."""

    reached: str
    marked: str
    of: str
    waiting: int
    per_cent: str | None
    scale: str | None
    band: str | None
    verdict: str | None


class TestLineOut(BaseModel):
    """A test in the list of a learner's work. `counts`: the score that counts, and why, as far as
    it may be told."""

    ref: str
    title: str
    state: WorkState
    subjects: list[PlaceOut]
    questions: int
    minutes: int | None
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    attempts: int
    attempts_left: int | None
    counts: str | None


class WaitingTestOut(BaseModel):
    """A test that waits for the learner."""

    ref: str
    title: str
    state: WorkState
    due: datetime | None
    closes: datetime | None


class TestsOut(BaseModel):
    """Tests of a learner, and the `ref` of the one to rehearse, if there is one."""

    tests: list[TestLineOut]
    rehearsal: str | None


class AttemptLineOut(BaseModel):
    """An attempt in short. `why_over`: how it was handed in."""

    id: int
    number: int
    begun: datetime
    handed_in: datetime | None
    why_over: str | None
    points: EarnedOut | None


class IdeasOut(BaseModel):
    """A topic that a test covers, with the learner's level in it and ideas of it that come."""

    topic: PlaceOut
    reading: ReadingOut
    questions: int


class TestPageOut(BaseModel):
    """A test's own page: everything before starting, and the attempts so far."""

    ref: str
    title: str
    mirror: bool
    rehearsal: bool
    first: list[StudyStepOut]
    directions_html: str
    materials: str
    state: WorkState
    lines: list[LineOut]
    opens: datetime | None
    due: datetime | None
    closes: datetime | None
    allowed: str | None
    large_print: bool
    can_start: bool
    why_not: str | None
    under_way: int | None
    attempts_left: int | None
    ideas: list[IdeasOut]
    attempts: list[AttemptLineOut]
    counts: str | None
    mirror_ref: str | None
    mirror_says: str | None


class PlaceStateOut(BaseModel):
    """A place of an attempt: its question without anything that gives it away, what stands there
    and how that is read, and whether it can be changed now. `page`: number of the first question
    on its page, its own where it stands alone."""

    number: int
    section: int
    page: int
    forward_only: bool
    points: str
    working_wanted: bool
    state: AnswerState
    read: list[ReadBackOut]
    can_change: bool
    seen: bool
    counter: int
    seconds: float
    saved_at: datetime | None
    data: SoFarData
    question: QuestionOut


class SectionOut(BaseModel):
    title: str
    directions_html: str
    minutes: int | None


class ScoreSoFarOut(BaseModel):
    """Points while a test goes on whose score is told at once: `reached` of those `marked`, `of` in
    all; questions `sent`, of all `questions`."""

    reached: str
    marked: str
    of: str
    sent: int
    questions: int


class AttemptOut(BaseModel):
    """An attempt under way, whole: nothing more is asked of the server to open a question.
    `interval`: the one that has it now; `left`: seconds of the clock, null without a limit;
    `so_far`: null where the score isn’t told at once. `section`, `position`: the section with a
    limit, and the page without a way back, that are reached; `onward`: what moving on leads to."""

    id: int
    ref: str
    title: str
    rehearsal: bool
    number: int
    directions_html: str
    sections: list[SectionOut]
    places: list[PlaceStateOut]
    so_far: ScoreSoFarOut | None
    submission: SubmissionMode
    tools: list[Tool]
    one_sitting: bool
    stops: bool
    interval: int
    section: int
    position: int
    onward: Onward | None
    left: float | None
    warn_at: list[float]
    pages: PagesWanted
    handed_in: bool
    server_now: datetime


class ClockOut(BaseModel):
    """How the clock stands: `interval` is the one that has the attempt; `paused`: why the tutor has
    stopped it, empty without a reason, null while it goes on."""

    interval: int
    left: float | None
    section: int
    position: int
    handed_in: bool
    paused: str | None
    server_now: datetime


class SavedOut(BaseModel):
    """What became of a save: what stands now, and how it is read. `late`: kept, and it does not
    count."""

    number: int
    state: AnswerState
    read: list[ReadBackOut]
    counter: int
    saved_at: datetime | None
    late: bool
    left: float | None


class ReceiptOut(BaseModel):
    """`rehearsal`: whether it counts for nothing. `number`: a check number that the tutor can look
    up. `unreadable`: questions in which no rule could read an answer, which wait for a tutor.
    `pages_needed`: whether pages of paper belong to it; else they only may be added."""

    attempt: int
    ref: str
    rehearsal: bool
    test: str
    learner: str
    attempt_number: int
    handed_in: datetime
    why_over: str
    answered: int
    unreadable: int
    questions: int
    number: str
    pages: PagesState
    pages_needed: bool


class IntervalIn(Strict):
    interval: Annotated[int, Field(ge=0)]


class MoveOnIn(Strict):
    """The section and the page that are left, as the attempt said them."""

    section: Annotated[int, Field(ge=0, le=20)]
    position: Annotated[int, Field(ge=1, le=200)]


class SaveIn(Strict):
    """What stands at a place. `counter`: greater with each change here. `seconds`: in view."""

    interval: Annotated[int, Field(ge=0)]
    counter: Annotated[int, Field(ge=1, le=2_000_000_000)]
    seconds: Annotated[float, Field(ge=0, le=100_000)]
    data: SoFarData

    @field_validator("data")
    @classmethod
    def _tidied(cls, data: SoFarData) -> SoFarData:
        return data.model_copy(update={"responses": tidied_responses(data.responses)})
