"""The courses somebody learns in."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.people.permissions import current_user, signed_in

from . import queries
from .schemas import CourseOut, CoursesOut

router = Router(auth=signed_in, tags=["courses"])


@router.get("/courses", response=CoursesOut, operation_id="list_courses")
def courses(request: HttpRequest) -> CoursesOut:
    rows = queries.enrolments_of(current_user(request))
    return CoursesOut(
        courses=[CourseOut(key=row.course.key, title=row.course.title) for row in rows]
    )
