"""Endpoints of pages of paper: the learner's, a phone's, and those of whoever watches over."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Path, Query, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.uploads import UPLOAD, uploaded_file
from vendaval_core.assessment.paper import MOST_BYTES

from ..assigning.access import assignment_of, attempt_of
from ..assigning.schemas import AllowanceIn
from ..invigilating import actions as intervening
from ..invigilating import reopening
from ..invigilating import sitters as invigilating
from ..invigilating.allowances import allow
from ..invigilating.schemas import MoreTimeIn, PauseIn, ReopenCheckOut, ReopenIn, ResumeIn
from ..taking.state import own_attempt
from . import links, pages
from .schemas import (
    Came,
    PageIn,
    PaperOut,
    PhoneLinkOut,
    PhoneOut,
    ShownIn,
    SittingOut,
)

router = Router(auth=signed_in, tags=["paper"])
phone = Router(auth=None, tags=["paper"])
watching = Router(auth=signed_in, tags=["paper"])
ATTEMPT = "/attempts/{int:attempt_id}/paper"
PAGE = f"{ATTEMPT}/pages/{{int:page_id}}"
SITTING = "/groups/{int:group_id}/tests/{int:assignment_id}/sitting"
Token = Annotated[str, Path(pattern=r"^[A-Za-z0-9_:.\-]{10,200}$")]
Small = Annotated[bool, Query()]


def _picture(data: bytes) -> HttpResponse:
    return HttpResponse(data, content_type="image/jpeg")


@router.get(ATTEMPT, response=PaperOut, operation_id="get_paper")
def get_paper(request: HttpRequest, course: CourseKey, attempt_id: int) -> PaperOut:
    """Pages of an attempt, and whether more are taken."""
    user = current_user(request)
    return pages.paper_out(own_attempt(user, course, attempt_id, "get_paper"))


@router.post(f"{ATTEMPT}/link", response=PhoneLinkOut, operation_id="make_phone_link")
def make_phone_link(request: HttpRequest, course: CourseKey, attempt_id: int) -> PhoneLinkOut:
    """A link for a phone, good for a quarter of an hour; the one before is good no more."""
    address = f"{request.scheme}://{request.get_host()}"
    return links.make_link(current_user(request), course, attempt_id, address)


@router.post(f"{ATTEMPT}/pages", response=PaperOut, operation_id="add_pages", openapi_extra=UPLOAD)
def add_pages(
    request: HttpRequest, course: CourseKey, attempt_id: int, came: Came = Came.FILE
) -> PaperOut:
    """Add the pages of a file: JPEG, PNG, HEIC or PDF."""
    load = pages.own(current_user(request), course, attempt_id, "add_pages")
    load()
    return pages.paper_out(pages.add(load, uploaded_file(request, MOST_BYTES), came))


@router.patch(PAGE, response=PaperOut, operation_id="change_page")
def change_page(
    request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int, body: PageIn
) -> PaperOut:
    """Turn a page, move it, or say which questions it answers."""
    load = pages.own(current_user(request), course, attempt_id, "change_page")
    return pages.paper_out(pages.change_page(load, page_id, body))


@router.delete(PAGE, response=PaperOut, operation_id="remove_page")
def remove_page(request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int) -> PaperOut:
    load = pages.own(current_user(request), course, attempt_id, "remove_page")
    return pages.paper_out(pages.remove(load, page_id))


@router.post(f"{ATTEMPT}/all-in", response=PaperOut, operation_id="all_pages_in")
def all_in(request: HttpRequest, course: CourseKey, attempt_id: int) -> PaperOut:
    """Nothing more comes."""
    load = pages.own(current_user(request), course, attempt_id, "all_pages_in")
    return pages.paper_out(pages.all_in(load))


@router.get(f"{PAGE}/picture", operation_id="get_page")
def get_page(
    request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int, small: Small = False
) -> HttpResponse:
    """A page's picture, JPEG."""
    attempt = own_attempt(current_user(request), course, attempt_id, "get_page")
    return _picture(pages.picture(attempt.pk, page_id, small=small))


@phone.get("/phone/{token}", response=PhoneOut, operation_id="get_phone")
def get_phone(request: HttpRequest, token: Token) -> PhoneOut:
    """What a phone that followed a good link shows."""
    return links.phone_out(token)


@phone.post(
    "/phone/{token}/pages",
    response=PhoneOut,
    operation_id="add_phone_pages",
    openapi_extra=UPLOAD,
)
def add_phone_pages(request: HttpRequest, token: Token) -> PhoneOut:
    """Add the pages of a file from a phone."""
    links.by_link(token)
    pages.add(lambda: links.by_link(token), uploaded_file(request, MOST_BYTES), Came.PHONE)
    return links.phone_out(token)


@watching.get(SITTING, response=SittingOut, operation_id="get_sitting")
def get_sitting(request: HttpRequest, group_id: int, assignment_id: int) -> SittingOut:
    """Who sits a test of a group, and where they are."""
    group = own_group(current_user(request), group_id, "get_sitting")
    return invigilating.sitting(group, assignment_id)


@watching.post(
    f"{SITTING}/{{int:attempt_id}}/shown", response=SittingOut, operation_id="tick_sheets_shown"
)
def tick_shown(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int, body: ShownIn
) -> SittingOut:
    """A learner's sheets were shown to the camera."""
    user = current_user(request)
    group = own_group(user, group_id, "tick_sheets_shown")
    return invigilating.tick_shown(group, assignment_id, attempt_id, user, shown=body.shown)


@watching.post(
    f"{SITTING}/{{int:attempt_id}}/close-pages",
    response=SittingOut,
    operation_id="close_pages",
)
def close_pages(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> SittingOut:
    """No more pages are taken from a learner."""
    group = own_group(current_user(request), group_id, "close_pages")
    return invigilating.close_pages(group, assignment_id, attempt_id)


@watching.post(
    f"{SITTING}/{{int:attempt_id}}/hand-in", response=SittingOut, operation_id="hand_in_for"
)
def hand_in_for(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> SittingOut:
    """Hand an attempt in as it stands, for its learner."""
    user = current_user(request)
    group = own_group(user, group_id, "hand_in_for")
    return invigilating.hand_in_for(group, assignment_id, attempt_id, user)


@watching.post(
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
    return invigilating.sitting(group, assignment_id)


@watching.post(f"{SITTING}/pause", response=SittingOut, operation_id="pause_sitting")
def pause(request: HttpRequest, group_id: int, assignment_id: int, body: PauseIn) -> SittingOut:
    """Stop the clocks of those who sit, or of some."""
    user = current_user(request)
    group = own_group(user, group_id, "pause_sitting")
    assignment = assignment_of(group, assignment_id)
    intervening.pause(group, assignment, body.attempts, user, body.why)
    return invigilating.sitting(group, assignment_id)


@watching.post(f"{SITTING}/resume", response=SittingOut, operation_id="resume_sitting")
def resume(request: HttpRequest, group_id: int, assignment_id: int, body: ResumeIn) -> SittingOut:
    """Let those who are paused go on, or some, with the time they had."""
    user = current_user(request)
    group = own_group(user, group_id, "resume_sitting")
    intervening.resume(group, assignment_of(group, assignment_id), body.attempts, user)
    return invigilating.sitting(group, assignment_id)


@watching.post(f"{SITTING}/time", response=SittingOut, operation_id="give_more_time")
def more_time(
    request: HttpRequest, group_id: int, assignment_id: int, body: MoreTimeIn
) -> SittingOut:
    """Give those who sit more time, or some."""
    user = current_user(request)
    group = own_group(user, group_id, "give_more_time")
    assignment = assignment_of(group, assignment_id)
    intervening.give_time(group, assignment, body.attempts, body.minutes, user, body.why)
    return invigilating.sitting(group, assignment_id)


REOPEN = f"{SITTING}/{{int:attempt_id}}/reopen"


@watching.get(REOPEN, response=ReopenCheckOut, operation_id="check_reopening")
def check_reopen(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int
) -> ReopenCheckOut:
    """What reopening an attempt would be, and what its learner has been told since."""
    group = own_group(current_user(request), group_id, "check_reopening")
    return reopening.check_reopening(group, assignment_id, attempt_id)


@watching.post(REOPEN, response=SittingOut, operation_id="reopen_attempt")
def reopen(
    request: HttpRequest, group_id: int, assignment_id: int, attempt_id: int, body: ReopenIn
) -> SittingOut:
    """Let an attempt go on that was handed in."""
    user = current_user(request)
    group = own_group(user, group_id, "reopen_attempt")
    reopening.reopen(group, assignment_id, attempt_id, body, user)
    return invigilating.sitting(group, assignment_id)


@watching.get(
    f"{SITTING}/{{int:attempt_id}}/pages/{{int:page_id}}", operation_id="get_learner_page"
)
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
    return _picture(pages.picture(attempt.pk, page_id, small=small))
