"""What the browser gets and sends about pages of paper."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.work.schemas import Strict
from vendaval_core.assessment.paper import MOST_PAGES, PagesState, PagesWanted


class Came(StrEnum):
    """How a page got here."""

    PHONE = "phone"
    CAMERA = "camera"
    FILE = "file"


class PageOut(BaseModel):
    """A page. `version` changes with its picture; `questions`: numbers of those it answers."""

    id: int
    place: int
    questions: list[int]
    came: Came
    at: datetime
    version: str


class PaperQuestionOut(BaseModel):
    """A question of the attempt; `sheet`: the sheet that the learner said it is on."""

    number: int
    title: str
    on_paper: bool
    sheet: int | None


class PaperOut(BaseModel):
    """The pages of an attempt. `until`: they are taken no longer than that."""

    wanted: PagesWanted
    state: PagesState
    until: datetime | None
    test: str
    questions: list[PaperQuestionOut]
    pages: list[PageOut]
    most: int = MOST_PAGES
    server_now: datetime


class PageIn(Strict):
    """Change a page: turned clockwise by quarters, moved to a place, for these questions."""

    turn: Annotated[int, Field(ge=1, le=3)] | None = None
    place: Annotated[int, Field(ge=1, le=MOST_PAGES)] | None = None
    questions: Annotated[list[int], Field(max_length=40)] | None = None


SitterState = Literal["not_begun", "working", "away", "paused", "handed_in", "pages_in"]
