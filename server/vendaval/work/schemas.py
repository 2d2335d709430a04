"""What the browser gets and sends about runs and answers."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval.delivery.schemas import (
    PartResultName,
    PlaceOut,
    QuestionOut,
    ReadingOut,
    StudyLinkOut,
)
from vendaval.shared.responses import Responses

from .columns import Verdict, WorkingNote
from .models import Purpose

TopicStatusName = Literal["open", "settled", "close", "exhausted", "held", "lost"]
ReplayKey = Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9_-]+$")]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ReadBackIn(Strict):
    """What stands in the parts of a question, before it is sent."""

    responses: Responses


class TopicProgressOut(BaseModel):
    key: str
    title: str
    status: TopicStatusName
    reading: ReadingOut


class LeftOut(BaseModel):
    """What is expected to be left of a run: questions, as a range too, and minutes."""

    questions: int
    fewest: int
    most: int
    minutes: int


class IdeaOut(BaseModel):
    """An idea that counts: versions right at the first try so far, of those it wants. `missed`:
    whether it is on the list of misses."""

    key: str
    title: str
    right: int
    wanted: int
    missed: bool


class GoalOut(BaseModel):
    """The goal of a run: what is still left to it, in a line. After it practice goes on, and takes
    nothing that is recorded down."""

    says: str
    reached: bool


class RunOut(BaseModel):
    """A run as shown while answering. `wanted`: what its target still wants, in a line. `ideas`:
    those of its topic that count. `next_miss`: to mend after this one, in
    `miss_order`. `spell`: the spell of work it is a piece of.
    `time_is_up`: its minutes are over, so that it ends with the question at hand."""

    id: int
    purpose: Purpose
    title: str
    scope: list[PlaceOut]
    answered: int
    ended: bool
    saved_at: datetime
    left: LeftOut | None
    suggest_stop: Literal["long", "rapid"] | None
    miss: int | None
    next_miss: int | None
    miss_order: Literal["topic", "sure", "newest"] | None
    study_first: StudyLinkOut | None
    wanted: str | None
    goal: GoalOut | None
    ideas: list[IdeaOut]
    spell: int | None
    time_is_up: bool
    topics: list[TopicProgressOut]


class LevelChangeOut(BaseModel):
    topic: PlaceOut
    before: ReadingOut
    after: ReadingOut
    sentence: str


class PartFeedbackOut(BaseModel):
    id: str
    result: PartResultName
    says: str | None


class FeedbackOut(BaseModel):
    """What became of an answer."""

    verdict: Verdict
    headline: str
    detail: str
    parts: list[PartFeedbackOut]
    level: LevelChangeOut | None
    met: str | None
    mended: bool


class AnswerOut(BaseModel):
    """Feedback, the question as it stands now, the next one when there is one, and the run."""

    feedback: FeedbackOut
    question: QuestionOut
    next: QuestionOut | None
    run: RunOut


class RunStateOut(BaseModel):
    """A run as it was left: the question that waits, null when the run is done."""

    run: RunOut
    question: QuestionOut | None


class WorkingOut(BaseModel):
    """The question with its worked solution, and the next one unless reading comes first."""

    run: RunOut
    question: QuestionOut
    next: QuestionOut | None


class WhyOut(BaseModel):
    """Why a question was asked, in sentences."""

    sentences: list[str]


class DoneOut(BaseModel):
    done: bool


class AnswerIn(Strict):
    """An answer. `responses`: by part id, what was typed, or one value a line in QTI's writing;
    empty with `not_taught`, which says that the learner has not been taught this."""

    replay_key: ReplayKey
    responses: Responses = {}
    confidence: Literal[50, 70, 90, 100] | None = None
    working: WorkingNote | None = None
    not_taught: bool = False


class ReplayIn(Strict):
    replay_key: ReplayKey


class StartIn(Strict):
    """What is begun; each activity has its own fields beside."""

    purpose: Purpose
