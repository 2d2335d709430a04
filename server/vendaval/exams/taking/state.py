"""An attempt as it stands now: whoever reads it first stores what time has made of it."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared import clock
from vendaval.shared.changes import Stale, claimed, until_stored
from vendaval.shared.codes import new_code, shown_code
from vendaval.shared.errors import NotFound
from vendaval_core.assessment.attempt import Attempt as CoreAttempt
from vendaval_core.assessment.attempt import as_of, may_be_marked

from ..columns import StandingData
from ..models import AnswerSoFar, Attempt
from .handing_in import due_attempts, held_of, release_results, unmarked_of, write_tries

STORED = ("standing", "handed_in_at", "loaded_at", "receipt")
LOADED = (
    "enrolment__course",
    "enrolment__state",
    "enrolment__person",
    "run",
    "test__mirror_of",
    "assignment__test",
)
SAVED_WITH = ("attempt", "presentation__revision__family__topic")
SAVED_TO = (
    "number",
    "counter",
    "data",
    "seconds",
    "saved_at",
    "late",
    "attempt__version",
    "attempt__rules",
    "attempt__places",
    "attempt__standing",
    "attempt__handed_in_at",
    "attempt__loaded_at",
    "attempt__receipt",
    "attempt__marked",
    "attempt__paper",
    "presentation__tried",
    "presentation__closed_at",
    "presentation__seed",
    "presentation__order",
    "presentation__revision__digest",
    "presentation__revision__family__key",
    "presentation__revision__family__topic__key",
)


def own_attempt(person: User, course: str, attempt_id: int, operation: str) -> Attempt:
    """A learner's own attempt as it stands now, or NotFound: what time did to it is stored."""
    rows = Attempt.objects.select_related(*LOADED)
    found = rows.filter(own(person, course, "enrolment__"), pk=attempt_id).first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("We can’t find this attempt."))
    found.enrolment.person = person
    found.run.enrolment, found.run.attempt = found.enrolment, found
    settle_now(found, clock.now())
    return found


def own_answer(
    person: User, course: str, attempt_id: int, number: int, operation: str
) -> AnswerSoFar:
    """What stands at a place of a learner's own attempt, with the attempt as it stands now; or
    NotFound. One query as long as the attempt goes on: it is asked at every change."""
    rows = AnswerSoFar.objects.select_related(*SAVED_WITH).only(*SAVED_TO)
    found = rows.filter(
        own(person, course, "attempt__enrolment__"), attempt_id=attempt_id, number=number
    ).first()
    if found is None:
        own_attempt(person, course, attempt_id, operation)
        raise NotFound(gettext("This attempt doesn’t have that question."))
    require(operation, person.roles, Relation.OWN)
    now, core = clock.now(), found.attempt.core()
    if as_of(core, now) != core or core.handed_in is not None:
        found.attempt = own_attempt(person, course, attempt_id, operation)
    return found


def settle_learner(enrolment: Enrolment) -> None:
    """Hand in, mark and release what time has brought for a learner: nothing, most of the time."""
    for attempt in (*unmarked_of(enrolment), *held_of(enrolment)):
        bring_up_to_date(attempt.pk)


def bring_up_to_date(attempt_id: int) -> None:
    """Hand an attempt in, mark it and release of it what time allows by now."""

    def work() -> None:
        rows = Attempt.objects.select_related(*LOADED)
        row, now = rows.get(pk=attempt_id), clock.now()
        row.run.enrolment, row.run.attempt = row.enrolment, row
        settle_now(row, now)
        release_results(row, now)

    until_stored(work)


def settle_all(attempts: Iterable[Attempt]) -> None:
    """Bring those up to date, of some that were not marked, that time has something for."""
    now = clock.now()
    for attempt in attempts:
        core = attempt.core()
        after = as_of(core, now)
        if after != core or may_be_marked(after, now):
            bring_up_to_date(attempt.pk)


def settle_due() -> int:
    """Bring every attempt up to date that time has something for; how many were looked at."""
    found = due_attempts()
    for attempt in found:
        bring_up_to_date(attempt.pk)
    return len(found)


def settle_now(attempt: Attempt, now: datetime) -> None:
    """Hand an attempt in, and mark it, if its time has run out; the same again does nothing."""
    if attempt.marked:
        return
    core = attempt.core()
    after = as_of(core, now)
    if after != core:
        keep(attempt, after)
    if may_be_marked(after, now):
        write_tries(attempt, now)


def keep(attempt: Attempt, after: CoreAttempt, *more: str) -> None:
    """Store how an attempt stands, or raise Stale. more: fields that changed with it."""
    attempt.standing = StandingData.of(after)
    if after.handed_in is not None and attempt.handed_in_at is None:
        attempt.handed_in_at = after.handed_in.at
        attempt.receipt = shown_code(new_code())
    if not claimed(attempt, (*STORED, *more)):
        raise Stale
