"""The days to come: rechecks, steps that were put off, the exam."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta

from django.utils import timezone

from vendaval.levels.learning import Learning
from vendaval_core.mastery.aims import next_exam

from .models import StepChoice
from .schemas import ComingOut

WEEK = timedelta(days=7)


def exam_of(learning: Learning, today: date) -> date | None:
    """The date that a learner works towards, if one is to come."""
    return next_exam(learning.enrolment.aims.exams, today)


def coming(
    learning: Learning, now: datetime, choices: Sequence[StepChoice], days: timedelta = WEEK
) -> list[ComingOut]:
    """What the next days bring, in order, and the exam however far it is."""
    today = timezone.localtime(now).date()
    found = []
    for topic in learning.bank.topics:
        due = learning.topic(topic.key).recheck_at
        if due is not None and due > now and learning.taught(topic):
            on = timezone.localtime(due).date()
            found.append(ComingOut(on=on, kind="recheck", title=f"Recheck: {topic.title.lower()}"))
    found += [
        ComingOut(on=row.until, kind="put_off", title=row.title) for row in choices if row.until
    ]
    found = [one for one in found if one.on < today + days]
    exam = exam_of(learning, today)
    if exam is not None:
        found.append(ComingOut(on=exam, kind="exam", title="Exam"))
    return sorted(found, key=lambda one: one.on)
