"""What a tutor's browser gets and sends to step into attempts at a test."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.work.schemas import Strict
from vendaval_core.assessment.paper import PagesState, PagesWanted

from ..assigning.schemas import AllowanceOut
from ..models import InterventionKind
from ..paper.schemas import PageOut, SitterState

Why = Annotated[str, Field(min_length=3, max_length=200)]
Attempts = Annotated[list[int], Field(min_length=1, max_length=400)] | None


class InterventionOut(BaseModel):
    """Something a tutor did with an attempt."""

    kind: InterventionKind
    by: str
    why: str
    says: str
    at: datetime


class PauseIn(Strict):
    """Attempts to pause, or null for all that go on, and why: learners read it."""

    attempts: Attempts = None
    why: Why


class ResumeIn(Strict):
    """Attempts to resume, or null for all that are paused."""

    attempts: Attempts = None


class MoreTimeIn(Strict):
    """Minutes more for attempts, or for all that go on, and why: learners read it."""

    attempts: Attempts = None
    minutes: Annotated[int, Field(ge=1, le=600)]
    why: Why


class ReopenIn(Strict):
    """Why an attempt goes on though it was handed in, and minutes more than were left."""

    why: Why
    minutes: Annotated[int, Field(ge=0, le=600)] = 0


class ReopenCheckOut(BaseModel):
    """What reopening an attempt would be. `refused`: why it cannot be; `told`: what its learner has
    been told since; `minutes`: left of its time, null where no clock was worth showing."""

    refused: str | None
    told: list[str]
    minutes: float | None


class AccommodationIn(Strict):
    """What a learner is allowed in every test, and why: they read it."""

    times: Annotated[float, Field(ge=1, le=4)] = 1.0
    minutes: Annotated[float, Field(ge=0, le=600)] = 0.0
    large_print: bool = False
    reader: bool = False
    separate_room: bool = False
    why: Annotated[str, Field(max_length=200)] = ""


class AccommodationOut(BaseModel):
    """What a learner is allowed in every test. `says`: in words."""

    times: float = 1.0
    minutes: float = 0.0
    large_print: bool = False
    reader: bool = False
    separate_room: bool = False
    why: str = ""
    says: list[str] = []
    by: str = ""
    at: datetime | None = None


class SitterOut(BaseModel):
    """A learner at a test. `state`: in one word; `late`: answers that came after the end and do not
    count; `sheets`: numbers said to be on paper."""

    learner: int
    name: str
    attempt: int | None
    state: SitterState
    number: str
    handed_in: datetime | None
    late: int
    on_paper: int
    sheets: list[int]
    pages: list[PageOut]
    pages_state: PagesState
    until: datetime | None
    shown_at: datetime | None
    shown_by: str
    allowance: AllowanceOut | None
    accommodation: list[str]
    history: list[InterventionOut]


class SittingOut(BaseModel):
    """Who sits a test, by name."""

    group: str
    test: str
    wanted: PagesWanted
    learners: list[SitterOut]
    server_now: datetime


class ShownIn(Strict):
    """Whether the sheets were shown."""

    shown: bool
