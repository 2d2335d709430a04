"""What a learner decided about a next step."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from vendaval.groups.models import Enrolment


class StepChoice(models.Model):
    """A step that was put off to a day, or turned down where there is no day. Kept when it is
    taken back. step: as a step is known, its kind and what it is about."""

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
