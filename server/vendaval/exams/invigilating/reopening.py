"""An attempt that was handed in by mistake goes on: what handing it in wrote is set aside."""

from __future__ import annotations

from datetime import datetime

from django.utils.translation import gettext

from vendaval.groups.models import Group
from vendaval.levels.learning import learning_of
from vendaval.levels.models import Observation
from vendaval.levels.observations import set_counting
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.changes import Changes, Stale, claimed, until_stored
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.work.activity import activities
from vendaval.work.columns import Reply
from vendaval.work.models import Try, TryKind
from vendaval.work.questions import OpenQuestion, opened
from vendaval_core.assessment.attempt import as_of
from vendaval_core.assessment.interventions import reopened
from vendaval_core.assessment.wording import told_words
from vendaval_core.measure.evidence import WeightReason
from vendaval_core.words import minutes_words

from ..assigning.access import assignment_of, attempt_of
from ..assigning.assigned import assigned_test_of
from ..attempts import answers_of
from ..columns import StandingData
from ..models import AnswerSoFar, Attempt, InterventionKind, Marking
from ..taking.actions import hand_in_later, visibility_at_start
from ..taking.handing_in import written_by
from ..taking.payload import left_out
from ..taking.state import LOADED, STORED
from .actions import hold_what_dates_tell, note
from .schemas import ReopenCheckOut, ReopenIn

CHANGED = (*STORED, "marked", "total", "released_at", "levels", "paper")


def check_reopening(group: Group, assignment_id: int, attempt_id: int) -> ReopenCheckOut:
    """What reopening an attempt would be. Nothing is changed."""
    attempt, now = _loaded(group, assignment_id, attempt_id), clock.now()
    left = left_out(reopened(attempt.core(), 0.0, now), now)
    return ReopenCheckOut(
        refused=_refusal(attempt),
        told=told_words(assigned_test_of(attempt).released(attempt, now)),
        minutes=None if left is None else round(left / 60, 1),
    )


def reopen(group: Group, assignment_id: int, attempt_id: int, wanted: ReopenIn, by: User) -> None:
    """Let an attempt go on with the time that was left when it was handed in, and some more. Its
    answers stand as they were. Conflict where something has been made of it that would be lost."""
    why = wanted.why.strip()

    def work() -> Attempt:
        attempt, now = _loaded(group, assignment_id, attempt_id), clock.now()
        refused = _refusal(attempt)
        if refused is not None:
            raise Conflict(refused, code="cannot_reopen")
        after = reopened(attempt.core(), 60.0 * wanted.minutes, now)
        if as_of(after, now).handed_in is not None:
            says = gettext("No time was left, so add some minutes.")
            raise Unprocessable(says, fields={"minutes": says})
        told = told_words(assigned_test_of(attempt).released(attempt, now))
        handed_in = attempt.handed_in_at
        assert handed_in is not None
        changes = Changes(learning_of(attempt.enrolment))
        for answer in answers_of(attempt):
            _take_up(attempt, answer, handed_in, now, changes)
        attempt.standing = StandingData.of(after)
        attempt.handed_in_at, attempt.released_at, attempt.total = None, None, None
        attempt.marked, attempt.receipt, attempt.levels = False, "", []
        attempt.paper.closed_at = None
        attempt.run.ended_at = None
        changes.touch(attempt.run, "ended_at", "answered")
        changes.then(lambda: _claim(attempt))
        changes.then(lambda: _note(attempt, told, wanted.minutes, why, by))
        changes.store()
        return attempt

    hand_in_later(until_stored(work))
    hold_what_dates_tell(assignment_of(group, assignment_id))


def _note(attempt: Attempt, told: list[str], minutes: int, why: str, by: User) -> None:
    says = "reopened"
    if minutes:
        says += gettext(", {minutes} more").format(minutes=minutes_words(minutes))
    if told:
        says += gettext("; shown before: {told}").format(told=", ".join(told))
    kind = AuditKind.TEST_REOPENED
    note(attempt, InterventionKind.REOPENED, by, why=why, says=says, kind=kind)
    for follower in activities().reopened:
        follower(attempt.run, why)


def _claim(attempt: Attempt) -> None:
    if not claimed(attempt, CHANGED):
        raise Stale


def _loaded(group: Group, assignment_id: int, attempt_id: int) -> Attempt:
    attempt_of(group, assignment_id, attempt_id)
    attempt = Attempt.objects.select_related(*LOADED).get(pk=attempt_id)
    attempt.run.enrolment, attempt.run.attempt = attempt.enrolment, attempt
    return attempt


def _refusal(attempt: Attempt) -> str | None:
    """Why an attempt cannot be reopened, in words."""
    if attempt.handed_in_at is None:
        return gettext("It hasn’t been handed in.")
    others = Attempt.objects.filter(
        enrolment=attempt.enrolment_id, test=attempt.test_id, number__gt=attempt.number
    )
    if others.exists():
        return gettext("The learner has started another attempt since.")
    if Marking.objects.filter(answer__attempt=attempt, withdrawn_at=None).exists():
        return gettext("A tutor has already marked part of it.")
    if attempt.regrades.filter(undone=False).exists():
        return gettext("One of its questions was regraded. Undo that first.")
    return None


def _take_up(
    attempt: Attempt, answer: AnswerSoFar, handed_in: datetime, now: datetime, changes: Changes
) -> None:
    """Open a question of the attempt again: as it was before handing in, with its answer. What was
    sent for good one by one stays sent."""
    shown = answer.presentation
    shown.visibility, shown.in_open_test = visibility_at_start(attempt), True
    changes.touch(shown, "visibility", "in_open_test", "closed_at", "closing", "tried")
    answer.unreadable = None
    changes.touch(answer, "unreadable")
    if shown.closed_at is None or shown.closed_at < handed_in:
        return
    if learning_of(attempt.enrolment).bank.known(shown.revision.family.key) is None:
        return
    shown.closed_at, shown.closing = None, ""
    question = opened(shown)
    for row in question.tries:
        if row.replay_key.startswith(written_by(attempt)):
            _set_aside(question, row, now, changes)


def _set_aside(question: OpenQuestion, row: Try, now: datetime, changes: Changes) -> None:
    """Let a try count for nothing any more, so that the question can be answered anew."""
    shown, learning = question.presentation, learning_of(question.enrolment)
    seen = Observation.objects.filter(tried=row).order_by("pk").first()
    set_counting(question, row, now, changes, counts=False)
    for follower in activities().counting:
        follower(question, False, now, changes)
    if seen is not None and seen.reason != WeightReason.SAME_FAMILY.value:
        # Else the answer that takes its place would count as a second one of this sitting.
        learning.family(question.item.family.key).sitting = -1
    shown.tried += 1
    question.run.answered -= row.first
    changes.add(
        Try(
            enrolment=question.enrolment,
            presentation=shown,
            family_id=row.family_id,
            topic_id=row.topic_id,
            replay_key=f"{row.replay_key}-aside",
            kind=TryKind.SET_ASIDE,
            number=shown.tried,
            seconds=0.0,
            undoes=row,
            reply=Reply(
                verdict="not_counted",
                headline=gettext("Set aside."),
                detail=gettext("The test was reopened after this."),
            ),
            at=now,
        )
    )
