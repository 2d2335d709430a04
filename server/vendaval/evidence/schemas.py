"""What the browser gets and sends about questions and levels. No key, seed or solution is in a
payload before the rules allow it: `questions.py` decides that in one place."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from .models import Purpose
from .part_schemas import FigureOut, PartOut, PieceOut, PointOut, SoundOut

PartResultName = Literal[
    "right", "partly", "wrong", "noted", "unreadable", "unchanged", "blank", "closed", "held"
]
TopicStatusName = Literal["open", "settled", "exhausted"]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ReadingOut(BaseModel):
    """A level. `level` is null while the interval is too wide for a number."""

    level: int | None
    middle: float
    low: float
    high: float
    target: int
    chance: float


class PlaceOut(BaseModel):
    key: str
    title: str


class PartStateOut(BaseModel):
    """Where a part stands. `answer` is the last response, `answer_html` a written one as read;
    `right_answer`, `pieces` (each pair, cell, gap or point) and `right_points` only once closed.
    `share`: best share of its points, 0 to 1."""

    id: str
    state: Literal["open", "right", "noted", "closed"]
    share: float
    tries: int
    answer: str
    answer_html: str | None
    says: str | None
    right_answer: str | None
    pieces: list[PieceOut]
    right_points: list[PointOut]


class StudyLinkOut(BaseModel):
    topic: str
    section: str
    title: str
    minutes: int


class QuestionOut(BaseModel):
    """A question as shown. `hints` are those opened; `solution` is null until it may be seen."""

    id: int
    purpose: Purpose
    number: int
    title: str
    topic: PlaceOut
    prompt_html: str
    stimulus_html: str | None
    figure: FigureOut | None
    sound: SoundOut | None
    parts: list[PartOut]
    states: list[PartStateOut]
    closed: bool
    untouched: bool
    tries_left: int
    tries_all: int
    worth_now: str
    share: float
    hints: list[str]
    hints_left: int
    fresh_left: int
    solution: list[str] | None
    solution_figure: FigureOut | None
    source: str | None
    study: StudyLinkOut
    swap: PlaceOut | None


class TopicProgressOut(BaseModel):
    key: str
    title: str
    status: TopicStatusName
    reading: ReadingOut


class RunOut(BaseModel):
    id: int
    purpose: Purpose
    title: str
    scope: list[PlaceOut]
    answered: int
    ended: bool
    saved_at: datetime
    questions_left: int | None
    minutes_left: int | None
    suggest_stop: bool
    miss: int | None
    study_first: StudyLinkOut | None
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

    verdict: Literal["right", "partly", "wrong", "not_taught", "not_counted"]
    headline: str
    detail: str
    parts: list[PartFeedbackOut]
    level: LevelChangeOut | None
    met: str | None
    mended: bool
    can_take_back: bool


class AnswerOut(BaseModel):
    """Mark and feedback, the question as it stands now, and the next question when there is one."""

    feedback: FeedbackOut
    question: QuestionOut
    next: QuestionOut | None
    run: RunOut


class RunStateOut(BaseModel):
    """A run as it was left: the question that waits, null when the run is done."""

    run: RunOut
    question: QuestionOut | None


class AnswerIn(Strict):
    """An answer. `responses`: by part id, what was typed, or one value a line in QTI's writing."""

    replay_key: Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9_-]+$")]
    responses: dict[
        Annotated[str, Field(max_length=30)], Annotated[str, Field(max_length=20000)]
    ] = Field(max_length=12)
    confidence: Literal[50, 70, 90, 100] | None = None


class ReplayIn(Strict):
    replay_key: Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9_-]+$")]
