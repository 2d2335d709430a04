"""Work set for a group that is no test: practice to a goal, a diagnostic, study sections."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.files.models import StoredFile
from vendaval.groups.models import Enrolment, GivenToGroup
from vendaval.shared.columns import column

from .columns import AsksData, Goal, StudyTask


def no_goal() -> StudyTask:
    """Of a row that is still to be filled."""
    return StudyTask.model_construct(kind="study", sections=[])


class Task(GivenToGroup):
    """A piece of work. Evidence for it counts from when it was given."""

    title = models.CharField(max_length=120)
    goal: Goal = column(Goal, no_goal)
    asks: AsksData = column(AsksData, AsksData)


class HandIn(models.Model):
    """What a learner hands in for a piece of work. links: addresses of pages of theirs. points:
    what a tutor gave of those there are; marked_at: when, with or without points."""

    task = models.ForeignKey(Task, on_delete=models.CASCADE, related_name="hand_ins")
    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="hand_ins")
    links: list[str] = column(list[str], list)
    handed_in_at = models.DateTimeField(null=True)
    points = models.DecimalField(max_digits=5, decimal_places=2, null=True)
    comment = models.TextField(blank=True)
    marked_at = models.DateTimeField(null=True)
    marked_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["task", "enrolment"], name="handed_in_once")]


class HandInFile(models.Model):
    """A file that belongs to what is handed in."""

    hand_in = models.ForeignKey(HandIn, on_delete=models.CASCADE, related_name="files")
    file = models.OneToOneField(StoredFile, on_delete=models.CASCADE, related_name="handed_in")
