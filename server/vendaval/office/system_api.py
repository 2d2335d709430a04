"""Endpoints of the office about the log, mails, jobs and calibrations."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.people.models import AuditKind
from vendaval.people.permissions import current_user, signed_in

from .calibrations import apply_soon
from .jobs import begin_again
from .scope import school_of
from .system import audit_out, sent_list, system_out
from .system_schemas import AuditOut, SentListOut, SystemOut

router = Router(auth=signed_in, tags=["office"])
Text = Annotated[str, Query(max_length=80)]


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


@router.post("/office/system/jobs/{uuid:job_id}", response=SystemOut, operation_id="retry_job")
def retry_job(request: HttpRequest, job_id: str) -> SystemOut:
    """Put a job that failed back to work."""
    user = current_user(request)
    school = school_of(user, "retry_job")
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
