"""Copies of a person's data, made in the background and kept for a day."""

from __future__ import annotations

from django.conf import settings
from django.db import models

PERSON = settings.AUTH_USER_MODEL


class Audience(models.TextChoices):
    """Whom a copy is for: an office gets the account and what it manages, and no answers."""

    PERSON = "person"
    OFFICE = "office"


class DataCopy(models.Model):
    """A copy of somebody's data. school: of the office it is for. by: who asked. file: its name in
    the folder of copies. gone_at: when it is removed."""

    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="data_copies")
    audience = models.CharField(max_length=6, choices=Audience.choices)
    school = models.ForeignKey("people.School", null=True, on_delete=models.CASCADE)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    asked_at = models.DateTimeField()
    ready_at = models.DateTimeField(null=True)
    gone_at = models.DateTimeField(null=True)
    size = models.PositiveBigIntegerField(default=0)
    file = models.CharField(max_length=80, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["person"],
                condition=models.Q(ready_at=None, school=None),
                name="own_copy_once_at_a_time",
            ),
            models.UniqueConstraint(
                fields=["person", "school"],
                condition=models.Q(ready_at=None),
                name="office_copy_once_at_a_time",
            ),
        ]
