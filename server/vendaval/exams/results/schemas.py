"""What the browser gets about an attempt that is over."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from vendaval.delivery.schemas import (
    PlaceOut,
    QuestionOut,
    ReadingOut,
    StudyLinkOut,
    WorkingAreaOut,
)

from ..composing.schemas import LineOut
from ..marking.schemas import PersonMarkOut
from ..taking.schemas import AttemptLineOut, SectionOut

Result = Literal["right", "partly", "wrong", "empty", "waiting", "by_hand", "dropped", "not_told"]


class ResultLineOut(BaseModel):
    """A question of an attempt that is over. `result`, `sum` and `points` as far as they may be
    told; `topic`: null in a rehearsal, `by_hand`: what a tutor would mark of one; `needed`: seconds
    that such questions take."""

    number: int
    section: int
    title: str
    topic: PlaceOut | None
    of: str
    points: str | None
    result: Result
    sum: str | None
    seconds: int
    needed: int
    flagged: bool
    note: str


class GroupStripOut(BaseModel):
    """Results of everybody in the group who took the test, per cent, the lowest first, without
    names; `own`: which of them is the learner's, from 0."""

    per_cent: list[int]
    own: int
    middle: int


class LevelStepOut(BaseModel):
    """A topic's level before the attempt was marked, and after."""

    topic: PlaceOut
    before: ReadingOut
    after: ReadingOut


class TopicPointsOut(BaseModel):
    """What an attempt brought in one topic: points, questions right at once, seconds."""

    topic: PlaceOut
    points: str
    of: str
    right: int
    questions: int
    seconds: int


class ResultsOut(BaseModel):
    """An attempt that is over. `told_when`: what is not told yet, and when it will be. `group`:
    where at least ten took the test. `levels`: once right and wrong may be told. `topics`: of a
    test over several, once points and right and wrong may be told; `study`: what explains the
    questions that were not right, likewise."""

    attempt: AttemptLineOut
    ref: str
    test: str
    due: datetime | None
    minutes: int
    sections: list[SectionOut]
    lines: list[ResultLineOut]
    told_when: list[LineOut]
    answered: int
    group: GroupStripOut | None
    levels: list[LevelStepOut]
    topics: list[TopicPointsOut]
    study: list[StudyLinkOut]
    mirror_ref: str | None


class ResultTryOut(BaseModel):
    """One try in an attempt that is over. `share`: of the question, in per cent, before anything
    was taken off; null while it waits for marks, or may not be told."""

    number: int
    at: datetime
    given: str
    share: str | None


class ResultQuestionOut(BaseModel):
    """One question of an attempt that is over, as far as it may be told. `pages`: of paper that
    answer it. `can_contest`: whether there is a mark to contest. `by_person`: what a marker gave,
    once marks are out."""

    line: ResultLineOut
    tries: list[ResultTryOut]
    pages: list[int]
    can_contest: bool
    by_person: list[PersonMarkOut]
    question: QuestionOut
    working: WorkingAreaOut | None
