"""Endpoints of study pages for their authors."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.authoring.access import course_of_author
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.uploads import UPLOAD, uploaded_file
from vendaval_core.packs.resources import MOST_BYTES, NAME

from . import beside, pages
from .page_history import page_history
from .page_schemas import (
    DrawingIn,
    FileKeptOut,
    PageHistoryOut,
    PagePreviewOut,
    PageSectionsIn,
    StudyPageIn,
    StudyPageToEditOut,
)

router = Router(auth=signed_in, tags=["authoring"])
PAGE = "/{slug:topic}"
FileName = Annotated[str, Query(pattern=NAME, max_length=81)]


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
    request: HttpRequest, course: CourseKey, topic: str, body: PageSectionsIn
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


@router.post(
    f"{PAGE}/files", response=FileKeptOut, operation_id="add_page_file", openapi_extra=UPLOAD
)
def add_page_file(
    request: HttpRequest, course: CourseKey, topic: str, name: FileName
) -> FileKeptOut:
    """Keep a film, its captions or a file for a study page to name."""
    person = current_user(request)
    found = course_of_author(person, course, "add_page_file")
    there = pages.topic_of(found, topic)
    content = uploaded_file(request, MOST_BYTES)
    return FileKeptOut(name=beside.keep_file(found, there, name, content, person))
