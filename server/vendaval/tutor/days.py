"""A group's calendar: set work, rechecks that fall due, the exam."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import date, datetime, timedelta

from django.utils import timezone
from django.utils.timezone import make_aware

from vendaval.assigning.days import group_days
from vendaval.groups.models import Group
from vendaval.groups.queries import members_of
from vendaval.levels.models import LearnerState
from vendaval.shared import clock

from .schemas import DayEntryOut, GroupDayOut, GroupDaysOut

BACK, AHEAD = timedelta(days=7), timedelta(days=42)


def _midnight(day: date) -> datetime:
    return make_aware(datetime(day.year, day.month, day.day))


def calendar_of(group: Group) -> GroupDaysOut:
    """A week back and six ahead, and the exam however far it is; days without anything left out."""
    today = timezone.localdate(clock.now())
    first, last = today - BACK, today + AHEAD
    days: dict[date, list[DayEntryOut]] = defaultdict(list)
    for one in group_days(group, _midnight(first), _midnight(last)):
        days[timezone.localdate(one.at)].append(
            DayEntryOut(kind=one.what, title=one.title, at=one.at, learners=0, path=one.desk)
        )
    for day, learners in _rechecks(group, today, last).items():
        days[day].append(
            DayEntryOut(kind="recheck", title="Rechecks", at=None, learners=learners, path=None)
        )
    exam = group.settings.exam_on
    if exam is not None and exam >= today:
        days[exam].append(DayEntryOut(kind="exam", title="Exam", at=None, learners=0, path=None))
    return GroupDaysOut(
        group=group.title,
        today=today,
        days=[GroupDayOut(on=on, entries=days[on]) for on in sorted(days)],
    )


def _rechecks(group: Group, first: date, last: date) -> Counter[date]:
    """For how many learners a recheck falls due on a day; what is overdue is due today."""
    found: Counter[date] = Counter()
    rows = LearnerState.objects.filter(enrolment__in=members_of(group).values("pk")).only("topics")
    for row in rows:
        dues = {
            max(first, timezone.localdate(history.recheck_at))
            for history in row.topics.values()
            if history.recheck_at is not None
        }
        found.update(day for day in dues if day < last)
    return found
