"""Notes that tutors keep on learners."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.groups.models import Enrolment


class Note(models.Model):
    """A tutor's note on a learner, for the tutors of their groups; shared ones the learner reads
    too."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="notes")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    text = models.TextField()
    shared = models.BooleanField(default=False)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["enrolment", "-id"], name="note_newest")]
