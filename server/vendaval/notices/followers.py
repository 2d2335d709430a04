"""Messages that follow an answer."""

from __future__ import annotations

from datetime import datetime

from django.utils.translation import gettext

from vendaval.people.models import User
from vendaval.shared.changes import Changes
from vendaval.work.activity import Activity
from vendaval.work.grading import Graded
from vendaval.work.models import Run

from .actions import notice_to, tell
from .models import NoticeKind


def note_met(graded: Graded, activity: Activity, now: datetime, changes: Changes) -> None:
    """A target that is met for the first time is a message too."""
    if graded.moved is None or graded.moved.met_says is None:
        return
    question = graded.question
    topic, enrolment = question.bank.topics[question.item.topic], question.enrolment
    path = f"/courses/{enrolment.course.key}/topics/{topic.key}"
    title = gettext("You’ve reached the target in {topic}").format(topic=topic.title.lower())
    changes.add(notice_to(enrolment.person, NoticeKind.TARGET_MET, title, path))


def note_handed_in(run: Run, changes: Changes) -> None:
    """The receipt of a test goes to its learner as a message; that of a rehearsal is only shown."""
    attempt, person = run.attempt, run.enrolment.person
    if attempt.test.rehearsal:
        return
    path = f"/courses/{run.enrolment.course.key}/tests/attempts/{attempt.pk}/receipt"
    text = gettext("Attempt {number}, check number {receipt}.").format(
        number=attempt.number, receipt=attempt.receipt
    )
    changes.add(
        notice_to(
            person,
            NoticeKind.HANDED_IN,
            gettext("Handed in: {run}").format(run=run.title),
            path,
            text,
        )
    )


def note_marks_released(run: Run) -> None:
    """Marks that a person gave a test are out."""
    attempt, person = run.attempt, run.enrolment.person
    path = f"/courses/{run.enrolment.course.key}/tests/attempts/{attempt.pk}/results"
    tell(
        [person], NoticeKind.MARKS_OUT, gettext("Marks released: {run}").format(run=run.title), path
    )


def note_asked_to_mark(person: User, title: str, path: str) -> None:
    """Somebody is to mark a test a second time."""
    text = gettext("You’ll see the first marker’s points after you’ve marked it yourself.")
    tell(
        [person],
        NoticeKind.MARKING,
        gettext("You are the second marker: {title}").format(title=title),
        path,
        text,
    )


def note_regraded(run: Run, family: str, why: str) -> None:
    """The points of a test became others, and why."""
    attempt, person = run.attempt, run.enrolment.person
    path = f"/courses/{run.enrolment.course.key}/tests/attempts/{attempt.pk}/results"
    tell(
        [person],
        NoticeKind.REGRADED,
        gettext("Mark changed: {run}").format(run=run.title),
        path,
        why,
    )


def note_reopened(run: Run, why: str) -> None:
    """A test that was handed in goes on."""
    attempt, person = run.attempt, run.enrolment.person
    path = f"/courses/{run.enrolment.course.key}/tests/attempts/{attempt.pk}"
    tell(
        [person],
        NoticeKind.WORK_SET,
        gettext("You can continue {run}").format(run=run.title),
        path,
        why,
    )
