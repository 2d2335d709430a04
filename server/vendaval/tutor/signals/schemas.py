"""Signals as a tutor sees them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vendaval_core.mastery.signal_words import SignalKind


class WhomOut(BaseModel):
    """A learner, by the number of their enrolment."""

    id: int
    name: str


class SignalOut(BaseModel):
    """Something worth asking: a question, its evidence, and what else could explain it.
    worked_out:
    the statistic, if there is one. assignment: at which test, for two with the same answers."""

    kind: SignalKind
    whom: list[WhomOut]
    question: str
    evidence: str
    perhaps: list[str]
    worked_out: str
    assignment: int | None


class LookedOut(BaseModel):
    """A signal that somebody looked at."""

    kind: SignalKind
    whom: list[WhomOut]
    note: str
    by: str
    at: datetime


class SignalsOut(BaseModel):
    """What is worth asking in a group, and what was looked at, the latest first."""

    group: str
    signals: list[SignalOut]
    looked: list[LookedOut]


class LookIn(BaseModel):
    """A signal that was looked at, and what came of it."""

    model_config = ConfigDict(extra="forbid")

    kind: SignalKind
    whom: Annotated[list[int], Field(min_length=1, max_length=2)]
    assignment: int | None = None
    note: Annotated[str, Field(min_length=1, max_length=400)]
