"""The days that set work brings: when it opens, is due and closes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from django.db.models import Q

from vendaval.exams.models import Assignment
from vendaval.groups.models import Enrolment, GivenToGroup, Group
from vendaval.groups.queries import given_to_learner

from .messages import task_path, test_path
from .models import Task

What = Literal["opens", "due", "closes"]
WHATS: tuple[What, ...] = ("opens", "due", "closes")
MOST = 200


@dataclass(frozen=True, slots=True)
class WorkDay:
    """A moment of a piece of set work. key: what it is known by; path: where its learner finds it;
    desk: where its tutor does."""

    at: datetime
    what: What
    title: str
    key: str
    path: str
    desk: str


def _within(since: datetime, until: datetime) -> Q:
    found = Q()
    for what in WHATS:
        found |= Q(**{f"{what}__gte": since, f"{what}__lt": until})
    return found


def _days(rows: Iterable[GivenToGroup], since: datetime, until: datetime) -> list[WorkDay]:
    found = []
    for row in rows:
        if isinstance(row, Assignment):
            title, path = row.test.title, test_path(row)
            desk = f"/tutor/work/{row.group_id}/{row.pk}"
        else:
            assert isinstance(row, Task)
            title, path, desk = row.title, task_path(row), f"/tutor/work/{row.group_id}"
        for what in WHATS:
            at: datetime | None = getattr(row, what)
            if at is not None and since <= at < until:
                kind = row._meta.model_name
                found.append(WorkDay(at, what, title, f"{kind}-{row.pk}-{what}", path, desk))
    return sorted(found, key=lambda day: (day.at, day.key))


def group_days(group: Group, since: datetime, until: datetime) -> list[WorkDay]:
    """What set work brings a group between two moments; two queries."""
    within = _within(since, until)
    tests = Assignment.objects.filter(within, group=group).select_related("test", "group__course")
    tasks = Task.objects.filter(within, group=group).select_related("group__course")
    return _days([*tests[:MOST], *tasks[:MOST]], since, until)


def own_days(enrolment: Enrolment, since: datetime, until: datetime) -> list[WorkDay]:
    """The same for one learner."""
    own = given_to_learner(enrolment) & _within(since, until)
    tests = Assignment.objects.filter(own).select_related("test", "group__course").distinct()
    tasks = Task.objects.filter(own).select_related("group__course").distinct()
    return _days([*tests[:MOST], *tasks[:MOST]], since, until)
