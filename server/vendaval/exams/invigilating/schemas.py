"""What a tutor's browser gets and sends to step into attempts at a test."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.work.schemas import Strict

from ..models import InterventionKind

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
