"""Threads as the browser sees and sends them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vendaval.delivery.schemas import PlaceOut, QuestionOut, WorkingAreaOut

from .models import ThreadKind, ThreadState

Text = Annotated[str, Field(min_length=1, max_length=4000)]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ClassmateOut(BaseModel):
    """Somebody of my groups whom I may ask. `id`: of their account."""

    id: int
    name: str


class ClassmatesOut(BaseModel):
    """`tutors`: names of those who are asked with "the tutor"."""

    tutors: list[str]
    classmates: list[ClassmateOut]


class AskHelpIn(Strict):
    """Ask about a question: the tutor, some classmates, or both. shows_answer, shows_working:
    whether these go with it."""

    text: Text
    to_tutor: bool
    classmates: Annotated[list[int], Field(max_length=20)]
    shows_answer: bool
    shows_working: bool


class ReportFaultIn(Strict):
    text: Text


class ContestIn(Strict):
    """Why a mark is contested."""

    text: Text


class ReplyIn(Strict):
    """quotes_solution: the worked solution goes with it; for tutors and authors."""

    text: Text
    quotes_solution: bool


class SettleIn(Strict):
    """says: what became of it."""

    says: Annotated[str, Field(max_length=300)]


class PostOut(BaseModel):
    id: int
    author: str
    mine: bool
    html: str
    quotes_solution: bool
    at: datetime


class ThreadLineOut(BaseModel):
    """A thread in a list. `waits_since`: since when it wants an answer. `same`: open threads on
    the same idea, this one among them. `last`: the beginning of the latest post."""

    id: int
    kind: ThreadKind
    state: ThreadState
    title: str
    topic: PlaceOut
    course: str
    asker: str
    last: str
    posts: int
    unread: bool
    waits_since: datetime | None
    opened_at: datetime
    same: int


class ThreadsOut(BaseModel):
    """`older`: id to ask for older ones with, null at the end."""

    threads: list[ThreadLineOut]
    older: int | None


class GivenOut(BaseModel):
    """An answer that others gave to the same version, and how many."""

    words: str
    count: int


class ThreadOut(BaseModel):
    """A thread. `question` is as much as may be told to who reads it; `given` the answer that the
    asker sent with it. `met_by`, `others`: for a fault, who met this version and what they said.
    `regrade_at`: where a tutor regrades a question whose mark is contested. `edit_at`: where its
    author sees its other versions, what was answered to them, and mends it."""

    line: ThreadLineOut
    can: list[str]
    question: QuestionOut
    given: dict[str, str] | None
    working: WorkingAreaOut | None
    says: str
    posts: list[PostOut]
    met_by: int | None
    others: list[GivenOut]
    regrade_at: str | None
    edit_at: str | None
