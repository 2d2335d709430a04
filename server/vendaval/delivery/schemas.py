"""What the browser gets of a question. No key, seed or solution is in it before the rules allow:
`disclosure.py` says what may be told, `payload.py` puts it together in one place."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from vendaval_core.items.kinds.registry import AnyPartOut
from vendaval_core.items.presented import FigureOut, PointOut
from vendaval_core.scoring.tries import Outcome

from .part_schemas import PieceOut, SoundOut

PartResultName = Literal[
    "right",
    "partly",
    "wrong",
    "noted",
    "unreadable",
    "incomplete",
    "unchanged",
    "blank",
    "closed",
    "held",
]
Can = Literal[
    "answer",
    "sure",
    "not_taught",
    "undo",
    "swap",
    "hint",
    "working",
    "fresh",
    "read",
    "finish",
]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ReadingOut(BaseModel):
    """A level. `level` is null while the interval is too wide for a number; `at_target`: likely
    enough to be at or above it."""

    level: int | None
    middle: float
    low: float
    high: float
    target: int
    chance: float
    at_target: bool


class PlaceOut(BaseModel):
    key: str
    title: str


class PartStateOut(BaseModel):
    """Where a part stands; "unanswered" when it was closed without a try, "given" while right or
    wrong is not told. `answer` is the last
    response, `answer_html` a written one as read;
    `right_answer`, `pieces` (each pair, cell, gap or point) and `right_points` only once closed.
    `share`: best share of its points, 0 to 1."""

    id: str
    state: Literal["open", "right", "noted", "closed", "unanswered", "given"]
    share: float
    tries: int
    answer: str
    answer_html: str | None
    says: str | None
    right_answer: str | None
    pieces: list[PieceOut]
    right_points: list[PointOut]


class ReadBackOut(BaseModel):
    """How what stands in a part is read, before it is marked. `says`: as what, where that is not
    what was typed; what is missing; or why it can't be read."""

    id: str
    state: Literal["blank", "incomplete", "unreadable", "read"]
    says: str


class WorkingAreaOut(BaseModel):
    """The working area of a try: its lines, and strokes of a sketch on 800 by 500."""

    html: str
    strokes: list[str]


class StudyLinkOut(BaseModel):
    topic: str
    section: str
    title: str
    minutes: int


class QuestionOut(BaseModel):
    """A question as shown. `can`: what its learner may do with it now. `hints` are those opened;
    `solution` is null until it may be seen."""

    id: int
    can: list[Can]
    number: int
    title: str
    topic: PlaceOut
    prompt_html: str
    stimulus_html: str | None
    figure: FigureOut | None
    sound: SoundOut | None
    parts: list[AnyPartOut]
    states: list[PartStateOut]
    closed: bool
    untouched: bool
    tries_left: int
    tries_all: int
    worth_now: str
    share: float
    outcome: Outcome | None
    hints: list[str]
    hints_left: int
    fresh_left: int
    solution: list[str] | None
    solution_figure: FigureOut | None
    source: str | None
    study: StudyLinkOut
    swap: PlaceOut | None
