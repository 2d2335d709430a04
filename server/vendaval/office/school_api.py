"""Endpoints of the office about groups, courses, settings, the log, mails and the system."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.people.models import AuditKind
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.editing import editing
from vendaval.shared.errors import NotFound

from . import groups
from .calibrations import apply_soon
from .edits import course_edit, group_edit, school_edit
from .jobs import begin_again
from .reading import group_list, office_group, school_out
from .schemas import (
    GroupIn,
    GroupListOut,
    NewGroupIn,
    OfficeCourseIn,
    OfficeGroupOut,
    SchoolIn,
    SchoolOut,
)
from .scope import courses_of, group_of, school_of
from .system import audit_out, office_out, sent_list, system_out
from .system_schemas import AuditOut, OfficeOut, SentListOut, SystemOut

router = Router(auth=signed_in, tags=["office"])
Text = Annotated[str, Query(max_length=80)]


@router.get("/office", response=OfficeOut, operation_id="get_office")
def get_office(request: HttpRequest) -> OfficeOut:
    """What waits for the office, and why."""
    return office_out(school_of(current_user(request), "get_office"))


@router.get("/office/groups", response=GroupListOut, operation_id="list_office_groups")
def list_office_groups(request: HttpRequest) -> GroupListOut:
    return group_list(school_of(current_user(request), "list_office_groups"))


@router.post("/office/groups", response=OfficeGroupOut, operation_id="make_group")
def make_group(request: HttpRequest, body: NewGroupIn) -> OfficeGroupOut:
    user = current_user(request)
    school = school_of(user, "make_group")
    group = groups.make_group(school, body.course, body.title.strip(), user, request)
    return office_group(group, school)


@router.get(
    "/office/groups/{int:group_id}", response=OfficeGroupOut, operation_id="get_office_group"
)
def get_office_group(request: HttpRequest, group_id: int) -> OfficeGroupOut:
    school = school_of(current_user(request), "get_office_group")
    return office_group(group_of(school, group_id), school)


@router.put("/office/groups/{int:group_id}", response=OfficeGroupOut, operation_id="name_group")
def name_group(request: HttpRequest, group_id: int, body: GroupIn) -> OfficeGroupOut:
    """Another name, and who teaches it."""
    user = current_user(request)
    school = school_of(user, "name_group")
    group = group_of(school, group_id)
    with editing(group, body, lambda: group_edit(group)):
        groups.name_group(group, school, body.title.strip(), body.tutors, user, request)
    return office_group(group_of(school, group_id), school)


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


@router.get("/office/log", response=AuditOut, operation_id="list_log")
def list_log(
    request: HttpRequest,
    kind: AuditKind | None = None,
    text: Text = "",
    since: date | None = None,
    until: date | None = None,
    older: int | None = None,
) -> AuditOut:
    """Who did what, when and from where; the newest first."""
    school = school_of(current_user(request), "list_log")
    return audit_out(school, kind=kind, text=text.strip(), since=since, until=until, older=older)


@router.get("/office/mails", response=SentListOut, operation_id="list_sent")
def list_sent(request: HttpRequest, text: Text = "", older: int | None = None) -> SentListOut:
    """Mails that went out to people of the school."""
    return sent_list(school_of(current_user(request), "list_sent"), text.strip(), older)


@router.get("/office/system", response=SystemOut, operation_id="get_system")
def get_system(request: HttpRequest) -> SystemOut:
    """How the system is: checks, and jobs in the background."""
    return system_out(school_of(current_user(request), "get_system"))


@router.post(
    "/office/system/jobs/{uuid:job_id}", response=SystemOut, operation_id="begin_job_again"
)
def begin_job_again(request: HttpRequest, job_id: str) -> SystemOut:
    """Put a job that failed back to work."""
    user = current_user(request)
    school = school_of(user, "begin_job_again")
    begin_again(school, str(job_id), user, request)
    return system_out(school)


@router.post(
    "/office/system/calibrations/{int:calibration_id}",
    response=SystemOut,
    operation_id="apply_calibration",
)
def apply_calibration(request: HttpRequest, calibration_id: int) -> SystemOut:
    """Have a calibration put in force: levels are made again, scores never change."""
    user = current_user(request)
    school = school_of(user, "apply_calibration")
    apply_soon(school, calibration_id, user, request)
    return system_out(school)
