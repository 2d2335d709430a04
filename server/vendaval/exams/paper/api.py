"""Endpoints of pages of paper: the learner's, and those of a phone."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Path, Query, Router

from vendaval.files import phone as working
from vendaval.files.api import picture_of
from vendaval.files.schemas import PhoneLinkOut, PhoneOut
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.uploads import UPLOAD, uploaded_file
from vendaval_core.assessment.paper import MOST_BYTES

from ..taking.state import own_attempt
from . import links, pages
from .schemas import Came, PageIn, PaperOut

router = Router(auth=signed_in, tags=["paper"])
phone = Router(auth=None, tags=["paper"])
ATTEMPT = "/attempts/{int:attempt_id}/paper"
PAGE = f"{ATTEMPT}/pages/{{int:page_id}}"
Token = Annotated[str, Path(pattern=r"^[A-Za-z0-9_:.\-]{10,200}$")]
Small = Annotated[bool, Query()]


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
    load = pages.own_attempt_loader(current_user(request), course, attempt_id, "add_pages")
    load()
    return pages.paper_out(pages.add(load, uploaded_file(request, MOST_BYTES), came))


@router.patch(PAGE, response=PaperOut, operation_id="change_page")
def change_page(
    request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int, body: PageIn
) -> PaperOut:
    """Turn a page, move it, or say which questions it answers."""
    load = pages.own_attempt_loader(current_user(request), course, attempt_id, "change_page")
    return pages.paper_out(pages.change_page(load, page_id, body))


@router.delete(PAGE, response=PaperOut, operation_id="remove_page")
def remove_page(request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int) -> PaperOut:
    load = pages.own_attempt_loader(current_user(request), course, attempt_id, "remove_page")
    return pages.paper_out(pages.remove(load, page_id))


@router.post(f"{ATTEMPT}/all-in", response=PaperOut, operation_id="all_pages_in")
def all_pages_in(request: HttpRequest, course: CourseKey, attempt_id: int) -> PaperOut:
    """Nothing more comes."""
    load = pages.own_attempt_loader(current_user(request), course, attempt_id, "all_pages_in")
    return pages.paper_out(pages.all_in(load))


@router.get(f"{PAGE}/picture", operation_id="get_page")
def get_page(
    request: HttpRequest, course: CourseKey, attempt_id: int, page_id: int, small: Small = False
) -> HttpResponse:
    """A page's picture, JPEG."""
    attempt = own_attempt(current_user(request), course, attempt_id, "get_page")
    return picture_of(pages.picture(attempt.pk, page_id, small=small))


@phone.get("/phone/{token}", response=PhoneOut, operation_id="get_phone")
def get_phone(request: HttpRequest, token: Token) -> PhoneOut:
    """What a phone that followed a good link shows."""
    if working.is_for_working(token):
        return working.phone_out(token)
    return links.phone_out(token)


@phone.post(
    "/phone/{token}/pages",
    response=PhoneOut,
    operation_id="add_phone_pages",
    openapi_extra=UPLOAD,
)
def add_phone_pages(request: HttpRequest, token: Token) -> PhoneOut:
    """Add the pages of a file from a phone, or a photograph of working."""
    if working.is_for_working(token):
        return working.add_photograph(token, lambda: uploaded_file(request, MOST_BYTES))
    links.by_link(token)
    pages.add(lambda: links.by_link(token), uploaded_file(request, MOST_BYTES), Came.PHONE)
    return links.phone_out(token)
