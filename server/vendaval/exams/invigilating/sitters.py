"""Who sits a test of a group, for whoever watches over it: states, sheets shown, pages."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from django.db import transaction

from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.changes import Stale, claimed, until_stored
from vendaval_core.assessment.attempt import HandedInBy, hand_in
from vendaval_core.assessment.paper import PagesState, PagesWanted, pages_state, pages_until

from ..assigning.access import assignment_of, attempt_of
from ..assigning.assigned import accommodations_of
from ..models import AnswerSoFar, Attempt, InterventionKind, Page
from ..paper.pages import page_out
from ..paper.schemas import SitterState
from ..taking.state import bring_up_to_date, keep, settle_all
from .accommodations import says_of
from .actions import histories, note
from .allowances import allowances_at
from .schemas import SitterOut, SittingOut


def sitting(group: Group, assignment_id: int) -> SittingOut:
    """Everybody of a group at a test, by name; what time handed in is handed in first."""
    assignment, now = assignment_of(group, assignment_id), clock.now()
    settle_all(Attempt.objects.filter(assignment=assignment, marked=False))
    attempts = {
        one.enrolment_id: one
        for one in Attempt.objects.filter(assignment=assignment).order_by("number")
    }
    pages: dict[int, list[Page]] = {}
    for page in Page.objects.filter(attempt__in=attempts.values()).order_by("place"):
        pages.setdefault(page.attempt_id, []).append(page)
    answers: dict[int, list[AnswerSoFar]] = {}
    for answer in AnswerSoFar.objects.filter(attempt__in=attempts.values()):
        answers.setdefault(answer.attempt_id, []).append(answer)
    allowed, history = allowances_at(assignment), histories(attempts.values())
    members = members_of(group)
    if not assignment.whole_group:
        members = members.filter(pk__in=assignment.learners.all())
    every = accommodations_of(members)
    learners = []
    for enrolment in members:
        found = attempts.get(enrolment.pk)
        theirs = ([], []) if found is None else (pages.get(found.pk, []), answers.get(found.pk, []))
        sitter = _sitter(enrolment, found, *theirs, now)
        sitter.allowance = allowed.get(enrolment.pk)
        usual = every.get(enrolment.pk)
        sitter.accommodation = [] if usual is None else says_of(usual)
        sitter.history = history.get(found.pk, []) if found is not None else []
        learners.append(sitter)
    return SittingOut(
        group=group.title,
        test=assignment.test.title,
        wanted=PagesWanted(assignment.pages),
        learners=learners,
        server_now=now,
    )


def _sitter(
    enrolment: Enrolment,
    attempt: Attempt | None,
    pages: list[Page],
    answers: list[AnswerSoFar],
    now: datetime,
) -> SitterOut:
    paper = None if attempt is None else attempt.paper
    handed_in = None if attempt is None else attempt.handed_in_at
    on_paper = [one for one in answers if one.data.on_paper]
    pages_are = (
        PagesState.NOT_WANTED if paper is None else pages_state(paper.core(), handed_in, now)
    )
    return SitterOut(
        learner=enrolment.pk,
        name=enrolment.person.display_name,
        attempt=None if attempt is None else attempt.pk,
        state=_state(attempt, pages_are, now),
        number="" if attempt is None else attempt.receipt,
        handed_in=handed_in,
        late=sum(one.late is not None for one in answers),
        on_paper=len(on_paper),
        sheets=sorted({one.data.sheet for one in on_paper if one.data.sheet is not None}),
        pages=[page_out(page) for page in pages],
        pages_state=pages_are,
        until=None
        if paper is None or handed_in is None or pages_are is PagesState.NOT_WANTED
        else pages_until(paper.core(), handed_in),
        shown_at=None if paper is None else paper.shown_at,
        shown_by="" if paper is None else paper.shown_by,
        allowance=None,
        accommodation=[],
        history=[],
    )


def _state(attempt: Attempt | None, pages: PagesState, now: datetime) -> SitterState:
    if attempt is None:
        return "not_begun"
    if attempt.handed_in_at is not None:
        return "pages_in" if pages is PagesState.ALL_IN else "handed_in"
    if attempt.standing.paused is not None:
        return "paused"
    intervals = attempt.core().intervals
    return "working" if intervals and intervals[-1].open(now) else "away"


def _change(
    group: Group, assignment_id: int, attempt_id: int, change: Callable[[Attempt], None]
) -> None:
    def work() -> None:
        attempt = attempt_of(group, assignment_id, attempt_id)
        change(attempt)
        if not claimed(attempt, ("paper",)):
            raise Stale

    until_stored(work)


def tick_shown(
    group: Group, assignment_id: int, attempt_id: int, by: User, *, shown: bool
) -> SittingOut:
    """The sheets of a learner were shown, or were not after all; who says so is kept."""

    def change(attempt: Attempt) -> None:
        attempt.paper.shown_at = clock.now() if shown else None
        attempt.paper.shown_by = by.display_name if shown else ""

    _change(group, assignment_id, attempt_id, change)
    return sitting(group, assignment_id)


def hand_in_for(group: Group, assignment_id: int, attempt_id: int, by: User) -> SittingOut:
    """Hand an attempt in as it stands, for a learner who could not. Done again it changes
    nothing."""

    def work() -> None:
        attempt, now = attempt_of(group, assignment_id, attempt_id), clock.now()
        if attempt.handed_in_at is None:
            with transaction.atomic():
                keep(attempt, hand_in(attempt.core(), HandedInBy.TUTOR, now))
                note(attempt, InterventionKind.HANDED_IN, by, kind=AuditKind.HANDED_IN_FOR)

    until_stored(work)
    bring_up_to_date(attempt_id)
    return sitting(group, assignment_id)


def close_pages(group: Group, assignment_id: int, attempt_id: int) -> SittingOut:
    """No more pages are taken from a learner."""

    def change(attempt: Attempt) -> None:
        attempt.paper.closed_at = attempt.paper.closed_at or clock.now()

    _change(group, assignment_id, attempt_id, change)
    return sitting(group, assignment_id)
