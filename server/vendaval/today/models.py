"""What a learner decided about a next step."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from vendaval.groups.models import Enrolment


class StepChoice(models.Model):
    """A step that was put off to a day, or turned down where there is no day. Kept when it is
    undone. step: as a step is known, its kind and what it is about."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="step_choices")
    step = models.CharField(max_length=140)
    title = models.CharField(max_length=160)
    until = models.DateField(null=True)
    at = models.DateTimeField()
    undone_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["enrolment", "step"],
                condition=Q(undone_at=None),
                name="one_choice_a_step",
            )
        ]


class CalendarKey(models.Model):
    """What lets a calendar read a learner's days to come, without signing in; nobody can guess it.
    ended_at: when its owner ended it."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="calendar_keys"
    )
    key = models.CharField(max_length=43, unique=True)
    made_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
