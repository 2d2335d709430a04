"""Scores that went back to a platform, as tutors see them."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from .models import ScoreState


class SentScoreOut(BaseModel):
    """A score for a platform. `says`: what the platform answered, where it did not take it;
    `next_at`: when it is tried again."""

    work: str
    learner: str
    given: float
    of: float
    state: ScoreState
    says: str
    sent_at: datetime | None
    next_at: datetime | None


class GroupPlatformOut(BaseModel):
    """Where a group comes from; `name` is empty where it comes from no platform. `fills`: whether
    the platform tells who is in its course."""

    name: str
    fills: bool
    scores: list[SentScoreOut]
    refused: int


class GroupFilledOut(BaseModel):
    """How many are in the group from the platform."""

    taken: int
