"""Endpoints of study pages for their authors."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.authoring.access import course_of_author
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in

from . import pages
from .page_history import page_history
from .page_schemas import (
    DrawingIn,
    PageHistoryOut,
    PagePreviewOut,
    StudyPageEdit,
    StudyPageIn,
    StudyPageToEditOut,
)

router = Router(auth=signed_in, tags=["authoring"])
PAGE = "/{slug:topic}"


@router.get(PAGE, response=StudyPageToEditOut, operation_id="get_page_to_edit")
def get_page_to_edit(request: HttpRequest, course: CourseKey, topic: str) -> StudyPageToEditOut:
    """A topic's study page as its author edits it."""
    found = course_of_author(current_user(request), course, "get_page_to_edit")
    return pages.page_to_edit(found, pages.topic_of(found, topic))


@router.get(f"{PAGE}/history", response=PageHistoryOut, operation_id="get_page_history")
def get_page_history(request: HttpRequest, course: CourseKey, topic: str) -> PageHistoryOut:
    """How a topic's study page was before."""
    found = course_of_author(current_user(request), course, "get_page_history")
    return page_history(found, pages.topic_of(found, topic))


@router.post(f"{PAGE}/preview", response=PagePreviewOut, operation_id="preview_page")
def preview_page(
    request: HttpRequest, course: CourseKey, topic: str, body: StudyPageEdit
) -> PagePreviewOut:
    """A study page as learners would see it. Nothing is kept."""
    found = course_of_author(current_user(request), course, "preview_page")
    return pages.preview(found, pages.topic_of(found, topic), body)


@router.put(PAGE, response=StudyPageToEditOut, operation_id="save_page_text")
def save_page_text(
    request: HttpRequest, course: CourseKey, topic: str, body: StudyPageIn
) -> StudyPageToEditOut:
    """Put a study page in force."""
    person = current_user(request)
    found = course_of_author(person, course, "save_page_text")
    pages.save_page(found, pages.topic_of(found, topic), body, person)
    return pages.page_to_edit(found, pages.topic_of(found, topic))


@router.post(f"{PAGE}/drawings", response=StudyPageToEditOut, operation_id="add_drawing")
def add_drawing(
    request: HttpRequest, course: CourseKey, topic: str, body: DrawingIn
) -> StudyPageToEditOut:
    """Keep a drawing with a topic."""
    person = current_user(request)
    found = course_of_author(person, course, "add_drawing")
    pages.add_drawing(found, pages.topic_of(found, topic), body, person)
    return pages.page_to_edit(found, pages.topic_of(found, topic))
