"""Work set for a group that is no test: practice to a goal, a diagnostic, study sections."""

from __future__ import annotations

from django.db import models

from vendaval.groups.models import GivenToGroup
from vendaval.shared.columns import column

from .columns import Goal, StudyTask


def no_goal() -> StudyTask:
    """Of a row that is still to be filled."""
    return StudyTask.model_construct(kind="study", sections=[])


class Task(GivenToGroup):
    """A piece of work. Evidence for it counts from when it was given."""

    title = models.CharField(max_length=120)
    goal: Goal = column(Goal, no_goal)
