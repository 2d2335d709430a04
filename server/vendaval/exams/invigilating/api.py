"""Endpoints of whoever watches over a test: who sits it, and what is done for them."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Router

from vendaval.files.api import picture_of
from vendaval.groups.batches import Together
from vendaval.groups.queries import own_group, related_enrolment
from vendaval.people.permissions import current_user, signed_in

from ..assigning.access import assignment_of, attempt_of, rows_of
from ..assigning.schemas import AllowanceIn
from ..paper import pages
from ..paper.api import Small
from . import actions, reopening, sitters
from .accommodations import accommodate, accommodation
from .allowances import allow
from .schemas import (
    AccommodationIn,
    AccommodationOut,
    MoreTimeIn,
    PauseIn,
    ReopenCheckOut,
    ReopenIn,
    ResumeIn,
    ShownIn,
    SittingOut,
)

router = Router(auth=signed_in, tags=["paper"])
SITTING = "/groups/{int:group_id}/tests/{int:assignment_id}/sitting"


@router.get(SITTING, response=SittingOut, operation_id="get_sitting")
def get_sitting(request: HttpRequest, group_id: int, assignment_id: int) -> SittingOut:
    """Who sits a test of a group, and where they are."""
    group = own_group(current_user(request), group_id, "get_sitting")
    return sitters.sitting(group, assignment_id)


@router.post(
    f"{SITTING}/{{int:attempt_id}}/shown", response=SittingOut, operation_id="tick_sheets_shown"
)
def tick_sheets_shown(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int, body: ShownIn
) -> SittingOut:
    """A learner's sheets were shown to the camera."""
    user = current_user(request)
    group = own_group(user, group_id, "tick_sheets_shown")
    return sitters.tick_shown(group, assignment_id, attempt_id, user, shown=body.shown)


@router.post(
    f"{SITTING}/{{int:attempt_id}}/close-pages",
    response=SittingOut,
    operation_id="close_pages",
)
def close_pages(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> SittingOut:
    """No more pages are taken from a learner."""
    group = own_group(current_user(request), group_id, "close_pages")
    return sitters.close_pages(group, assignment_id, attempt_id)


@router.post(
    f"{SITTING}/{{int:attempt_id}}/hand-in", response=SittingOut, operation_id="hand_in_for"
)
def hand_in_for(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> SittingOut:
    """Hand an attempt in as it stands, for its learner."""
    user = current_user(request)
    group = own_group(user, group_id, "hand_in_for")
    return sitters.hand_in_for(group, assignment_id, attempt_id, user)


@router.post(
    "/groups/{int:group_id}/tests/{int:assignment_id}/allowances",
    response=SittingOut,
    operation_id="allow_learner",
)
def allow_learner(
    request: HttpRequest, group_id: int, assignment_id: int, body: AllowanceIn
) -> SittingOut:
    """Allow one learner more time, more attempts or other dates."""
    user = current_user(request)
    group = own_group(user, group_id, "allow_learner")
    allow(group, assignment_of(group, assignment_id), user, body)
    return sitters.sitting(group, assignment_id)


@router.post(f"{SITTING}/pause", response=SittingOut, operation_id="pause_sitting")
def pause_sitting(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    body: PauseIn,
    together: Together = False,
) -> SittingOut:
    """Stop the clocks of those who sit, or of some; together, in every group it was given to."""
    user = current_user(request)
    group = own_group(user, group_id, "pause_sitting")
    row = assignment_of(group, assignment_id)
    actions.everywhere(
        rows_of(row, user, together=together, some=body.attempts is not None),
        lambda one: actions.pause(one.group, one, body.attempts, user, body.why),
    )
    return sitters.sitting(group, assignment_id)


@router.post(f"{SITTING}/resume", response=SittingOut, operation_id="resume_sitting")
def resume_sitting(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    body: ResumeIn,
    together: Together = False,
) -> SittingOut:
    """Let those who are paused go on, or some, with the time they had."""
    user = current_user(request)
    group = own_group(user, group_id, "resume_sitting")
    row = assignment_of(group, assignment_id)
    actions.everywhere(
        rows_of(row, user, together=together, some=body.attempts is not None),
        lambda one: actions.resume(one.group, one, body.attempts, user),
    )
    return sitters.sitting(group, assignment_id)


@router.post(f"{SITTING}/time", response=SittingOut, operation_id="give_more_time")
def give_more_time(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    body: MoreTimeIn,
    together: Together = False,
) -> SittingOut:
    """Give those who sit more time, or some."""
    user = current_user(request)
    group = own_group(user, group_id, "give_more_time")
    row = assignment_of(group, assignment_id)
    actions.everywhere(
        rows_of(row, user, together=together, some=body.attempts is not None),
        lambda one: actions.give_time(one.group, one, body.attempts, body.minutes, user, body.why),
    )
    return sitters.sitting(group, assignment_id)


ACCOMMODATION = "/learners/{int:enrolment_id}/accommodation"


@router.get(ACCOMMODATION, response=AccommodationOut, operation_id="get_accommodation")
def get_accommodation(request: HttpRequest, enrolment_id: int) -> AccommodationOut:
    """What a learner is allowed in every test."""
    user = current_user(request)
    return accommodation(related_enrolment(user, enrolment_id, "get_accommodation"))


@router.post(ACCOMMODATION, response=AccommodationOut, operation_id="set_accommodation")
def set_accommodation(
    request: HttpRequest, enrolment_id: int, body: AccommodationIn
) -> AccommodationOut:
    """Allow a learner something in every test from now on."""
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "set_accommodation")
    return accommodate(found, body, user)


REOPEN = f"{SITTING}/{{int:attempt_id}}/reopen"


@router.get(REOPEN, response=ReopenCheckOut, operation_id="check_reopening")
def check_reopening(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> ReopenCheckOut:
    """What reopening an attempt would be, and what its learner has been told since."""
    group = own_group(current_user(request), group_id, "check_reopening")
    return reopening.check_reopening(group, assignment_id, attempt_id)


@router.post(REOPEN, response=SittingOut, operation_id="reopen_attempt")
def reopen_attempt(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int, body: ReopenIn
) -> SittingOut:
    """Let an attempt go on that was handed in."""
    user = current_user(request)
    group = own_group(user, group_id, "reopen_attempt")
    reopening.reopen(group, assignment_id, attempt_id, body, user)
    return sitters.sitting(group, assignment_id)


@router.get(f"{SITTING}/{{int:attempt_id}}/pages/{{int:page_id}}", operation_id="get_learner_page")
def get_learner_page(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    attempt_id: int,
    page_id: int,
    small: Small = False,
) -> HttpResponse:
    """A page of a learner's, JPEG."""
    group = own_group(current_user(request), group_id, "get_learner_page")
    attempt = attempt_of(group, assignment_id, attempt_id)
    return picture_of(pages.picture(attempt.pk, page_id, small=small))
