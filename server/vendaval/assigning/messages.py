"""Messages about set work: when it is set, and the day before it is due."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import timedelta

from django.utils import timezone
from django.utils.translation import gettext

from vendaval.exams.models import Assignment, Attempt
from vendaval.groups.models import Enrolment, GivenToGroup
from vendaval.groups.queries import members_of
from vendaval.notices.actions import tell
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.mastery.set_work import Standing

from .models import Task
from .tasks import standings_of

# "Due tomorrow" is said in the evening before, whatever the hour of the day it is due.
AHEAD = timedelta(hours=30)
A_NOTICE_LASTS = timedelta(days=2)


def who_has(row: GivenToGroup) -> list[Enrolment]:
    """The learners that a piece of work is for, of those in the group now."""
    members = list(members_of(row.group))
    if row.whole_group:
        return members
    chosen = {one.pk for one in row.learners.all()}
    return [one for one in members if one.pk in chosen]


def _tell_set(row: GivenToGroup, title: str, path: str) -> None:
    due = (
        gettext("Due {localtime:%-d %B, %H:%M}.").format(localtime=timezone.localtime(row.due))
        if row.due
        else ""
    )
    people = [one.person for one in who_has(row)]
    tell(
        people,
        NoticeKind.WORK_SET,
        gettext("New work for you: {title}").format(title=title),
        path,
        due,
    )


def tell_hand_in_marked(row: Task, person: User) -> None:
    """Tell a learner that what they handed in was marked."""
    says = gettext("Your work is marked: {title}").format(title=row.title)
    tell([person], NoticeKind.MARKS_OUT, says, task_path(row), "")


def test_path(row: Assignment) -> str:
    """Where a learner finds a test."""
    return f"/courses/{row.group.course.key}/tests/given-{row.pk}"


def task_path(row: Task) -> str:
    """Where a learner finds a piece of work."""
    return f"/courses/{row.group.course.key}/work/{row.pk}"


def tell_test_set(row: Assignment) -> None:
    """Tell learners that a test was given to them."""
    _tell_set(row, row.test.title, test_path(row))


def tell_task_set(row: Task) -> None:
    """Tell learners that work was set for them."""
    _tell_set(row, row.title, task_path(row))


def note_due_soon() -> int:
    """Tell whoever has not done it what is due by tomorrow night, once. Returns how many."""
    now = clock.now()
    soon = {"due__gt": now, "due__lte": now + AHEAD}
    told = 0
    tests = Assignment.objects.filter(**soon).select_related("test", "group__course")
    for row in tests.prefetch_related("learners"):
        over = Attempt.objects.filter(assignment=row).exclude(handed_in_at=None)
        done = set(over.values_list("enrolment", flat=True))
        waiting = [one.person for one in who_has(row) if one.pk not in done]
        told += _remind(waiting, row.test.title, test_path(row))
    for task in Task.objects.filter(**soon).select_related("group__course"):
        open_ = {Standing.NOT_BEGUN, Standing.UNDER_WAY}
        found = standings_of(task, who_has(task))
        waiting = [enrolment.person for enrolment, state, _ in found if state in open_]
        told += _remind(waiting, task.title, task_path(task))
    return told


def _remind(people: Iterable[User], title: str, path: str) -> int:
    since = clock.now() - A_NOTICE_LASTS
    rows = Notice.objects.filter(kind=NoticeKind.DUE_SOON, path=path, at__gte=since)
    before = set(rows.values_list("person", flat=True))
    left = [person for person in people if person.pk not in before]
    tell(left, NoticeKind.DUE_SOON, gettext("Due by tomorrow: {title}").format(title=title), path)
    return len(left)
