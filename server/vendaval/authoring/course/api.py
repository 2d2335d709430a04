"""Endpoints of a course's structure."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.authoring.access import course_of_author
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in

from .merging import merge_topics, what_merging_means
from .reading import structure_out
from .saving import save_structure, what_changes
from .schemas import (
    CourseStructureIn,
    CourseStructureOut,
    MergeTopicsIn,
    MergingOut,
    StructureChangesOut,
)

router = Router(auth=signed_in, tags=["authoring"])


@router.get("", response=CourseStructureOut, operation_id="get_structure")
def get_structure(request: HttpRequest, course: CourseKey) -> CourseStructureOut:
    """Subjects and topics of a course, and what hangs on each topic."""
    return structure_out(course_of_author(current_user(request), course, "get_structure"))


@router.post("/changes", response=StructureChangesOut, operation_id="check_structure")
def check_structure(
    request: HttpRequest, course: CourseKey, body: CourseStructureIn
) -> StructureChangesOut:
    """What saving a structure would change. Nothing is kept."""
    return what_changes(course_of_author(current_user(request), course, "check_structure"), body)


@router.put("", response=CourseStructureOut, operation_id="save_structure")
def save_course_structure(
    request: HttpRequest, course: CourseKey, body: CourseStructureIn
) -> CourseStructureOut:
    """Give a course other subjects and topics."""
    person = current_user(request)
    found = course_of_author(person, course, "save_structure")
    save_structure(found, body, person)
    return structure_out(found)


@router.post("/merging", response=MergingOut, operation_id="check_merging")
def check_merging(request: HttpRequest, course: CourseKey, body: MergeTopicsIn) -> MergingOut:
    """What putting one topic into another means. Nothing is kept."""
    found = course_of_author(current_user(request), course, "check_merging")
    return what_merging_means(found, body)


@router.post("/merge", response=CourseStructureOut, operation_id="merge_topics")
def merge_course_topics(
    request: HttpRequest, course: CourseKey, body: MergeTopicsIn
) -> CourseStructureOut:
    """Put one topic into another, with its questions and what was learnt there."""
    person = current_user(request)
    found = course_of_author(person, course, "merge_topics")
    merge_topics(found, body, person)
    return structure_out(found)
