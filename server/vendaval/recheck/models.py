"""Rechecks that were taken: the log of what held."""

from __future__ import annotations

from django.db import models

from vendaval.bank.models import Topic
from vendaval.groups.models import Enrolment


class Recheck(models.Model):
    """What a recheck found in a topic; only ever added to. days: since it was met or last held.
    chance: of being at the target afterwards."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="rechecks")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    held = models.BooleanField()
    level = models.FloatField()
    chance = models.FloatField()
    days = models.FloatField()
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["enrolment", "topic", "-id"], name="recheck_latest")]
