"""Misses: families a learner missed at the first try, until they are mended or set aside."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from vendaval.bank.models import Family, Topic
from vendaval.groups.models import Enrolment
from vendaval.work.models import Presentation


class MissState(models.TextChoices):
    """DROPPED: its question counts for nothing any more; nobody set it aside."""

    OPEN = "open"
    MENDED = "mended"
    SET_ASIDE = "set_aside"
    DROPPED = "dropped"


class Miss(models.Model):
    """A family the learner missed at the first try. presentation: the question as it was.

    sure: confidence given with it, 0 when none was, so that its order is the same everywhere.
    mend: the fresh version that was presented for it last. mends, mends_sitting: how many were
    taken in that sitting, since its study section was opened.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="misses")
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="+")
    mend = models.ForeignKey(Presentation, null=True, on_delete=models.SET_NULL, related_name="+")
    mends = models.PositiveSmallIntegerField(default=0)
    mends_sitting = models.PositiveIntegerField(default=0)
    state = models.CharField(max_length=10, choices=MissState.choices, default=MissState.OPEN)
    sure = models.PositiveSmallIntegerField(default=0)
    failed_mends = models.PositiveSmallIntegerField(default=0)
    opened_at = models.DateTimeField()
    closed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["enrolment", "family"], condition=Q(state="open"), name="one_open_miss"
            )
        ]
        indexes = [
            models.Index(fields=["enrolment", "state", "-sure", "-opened_at"], name="miss_open")
        ]


class Studied(models.Model):
    """A section of the revision plan that its learner marked as studied; kept when undone."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="studied")
    topic = models.SlugField()
    section = models.SlugField()
    at = models.DateTimeField()
    undone_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["enrolment", "topic", "section"],
                condition=Q(undone_at=None),
                name="studied_once",
            )
        ]
