"""Spells of work, and the forecasts that were made."""

from __future__ import annotations

from typing import Literal

from django.db import models
from pydantic import BaseModel

from vendaval.groups.models import Enrolment
from vendaval.shared.columns import column
from vendaval_core.mastery.filling import PieceKind


class PieceNote(BaseModel):
    """A piece of a spell. run: number of the run that it became. state: what became of it."""

    kind: PieceKind
    topic: str
    title: str
    why: str
    minutes: float
    questions: int = 0
    miss: int | None = None
    section: str | None = None
    run: int | None = None
    state: Literal["waiting", "begun", "done", "passed"] = "waiting"


class Spell(models.Model):
    """A number of minutes filled with the steps of greatest gain, done one after the other; it can
    be left and taken up again."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="spells")
    minutes = models.PositiveSmallIntegerField()
    pieces: list[PieceNote] = column(list[PieceNote], list)
    started_at = models.DateTimeField()
    touched_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["enrolment", "ended_at", "-id"], name="spell_open")]


class TopicForecast(BaseModel):
    """Chance, 0 to 1, of a topic's target being met by the date."""

    topic: str
    chance: float


class PlanForecast(models.Model):
    """What was forecast on a day for a date: kept, so that it can be held against what came.

    chance: of every target met. minutes: a week, that it was made for. low, high: topics at their
    target by then, the fewest and most of four in five; unknown in old ones.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="forecasts")
    made_on = models.DateField()
    exam_on = models.DateField()
    minutes = models.PositiveIntegerField()
    chance = models.FloatField()
    low = models.FloatField(null=True)
    high = models.FloatField(null=True)
    topics: list[TopicForecast] = column(list[TopicForecast], list)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["enrolment", "made_on", "exam_on"], name="one_forecast_a_day"
            )
        ]
