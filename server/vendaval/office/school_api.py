"""Endpoints of the office about what needs doing, the school and its courses."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router

from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.editing import editing
from vendaval.shared.errors import NotFound

from . import courses, groups
from .edits import course_edit, school_edit
from .reading import school_out
from .schemas import NewCourseIn, OfficeCourseIn, SchoolIn, SchoolOut
from .scope import courses_of, school_of
from .system import office_out
from .system_schemas import OfficeOut

router = Router(auth=signed_in, tags=["office"])


@router.get("/office", response=OfficeOut, operation_id="get_office")
def get_office(request: HttpRequest) -> OfficeOut:
    """What waits for the office, and why."""
    return office_out(school_of(current_user(request), "get_office"))


@router.get("/office/school", response=SchoolOut, operation_id="get_school")
def get_school(request: HttpRequest) -> SchoolOut:
    return school_out(school_of(current_user(request), "get_school"))


@router.put("/office/school", response=SchoolOut, operation_id="set_school")
def set_school(request: HttpRequest, body: SchoolIn) -> SchoolOut:
    user = current_user(request)
    school = school_of(user, "set_school")
    with editing(school, body, lambda: school_edit(school)):
        groups.set_school(school, body.name, body.consent_until, body.wording, user, request)
    return school_out(school)


@router.post("/office/courses", response=SchoolOut, operation_id="make_course")
def make_course(request: HttpRequest, body: NewCourseIn) -> SchoolOut:
    """A new course, which the school's authors fill."""
    user = current_user(request)
    school = school_of(user, "make_course")
    courses.make_course(school, body, user, request)
    return school_out(school)


@router.put("/office/courses/{slug:key}", response=SchoolOut, operation_id="set_course")
def set_course(request: HttpRequest, key: str, body: OfficeCourseIn) -> SchoolOut:
    """Whether anybody may learn in a course without being put into it."""
    user = current_user(request)
    school = school_of(user, "set_course")
    course = courses_of(school).filter(key=key).first()
    if course is None:
        raise NotFound(gettext("Your school doesn’t have this course."))
    with editing(course, body, lambda: course_edit(course)):
        groups.set_course(course, body.open_to_all, user, request)
    return school_out(school)
