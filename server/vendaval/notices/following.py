"""Messages that follow an answer."""

from __future__ import annotations

from datetime import datetime

from vendaval.shared.changes import Changes
from vendaval.work.activity import Activity
from vendaval.work.taking import Taken

from .actions import notice_to
from .models import NoticeKind


def note_met(taken: Taken, activity: Activity, now: datetime, changes: Changes) -> None:
    """A target that is met for the first time is a message too."""
    if taken.moved is None or taken.moved.met_says is None:
        return
    question = taken.question
    topic, enrolment = question.bank.topics[question.item.topic], question.enrolment
    path = f"/courses/{enrolment.course.key}/topics/{topic.key}"
    title = f"The target is met in {topic.title.lower()}"
    changes.add(notice_to(enrolment.person, NoticeKind.TARGET_MET, title, path))
