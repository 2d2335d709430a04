"""Endpoints of calibrations for authors."""

from __future__ import annotations

from typing import Annotated

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.authoring.access import course_of_author
from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.groups.addresses import CourseKey
from vendaval.measurement.jobs import (
    apply_in_background,
    propose_in_background,
    undo_in_background,
)
from vendaval.measurement.models import CalibrationRun
from vendaval.measurement.tables import table_of
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.shared.uploads import UPLOAD, uploaded_file
from vendaval_core.errors import TableInvalid

from .reading import calibrated_curves, calibration_of, calibration_page, is_busy
from .schemas import CalibratedCurvesOut, CalibrationFilter, CalibrationPageOut, FamiliesIn

router = Router(auth=signed_in, tags=["authoring"])
FIRST = CalibrationFilter()
MOST_TABLE = 1_000_000
TableName = Annotated[str, Query(min_length=1, max_length=120)]


@router.get("", response=CalibrationPageOut, operation_id="get_calibration")
def get_calibration(
    request: HttpRequest, course: CourseKey, wanted: Query[CalibrationFilter]
) -> CalibrationPageOut:
    """The newest calibration of a course."""
    found = course_of_author(current_user(request), course, "get_calibration")
    return calibration_page(found, wanted)


@router.get(
    "/families/{slug:family}",
    response=CalibratedCurvesOut,
    operation_id="get_calibrated_curves",
)
def get_calibrated_curves(
    request: HttpRequest, course: CourseKey, family: str
) -> CalibratedCurvesOut:
    """A question's curves, with what was observed."""
    found = course_of_author(current_user(request), course, "get_calibrated_curves")
    return calibrated_curves(found, family)


@router.post("/run", response=CalibrationPageOut, operation_id="run_calibration")
def run_calibration(request: HttpRequest, course: CourseKey) -> CalibrationPageOut:
    """Calibrate the course's log in the background."""
    person = current_user(request)
    found = course_of_author(person, course, "run_calibration")
    _begin(found, person)
    return calibration_page(found, FIRST)


@router.post(
    "/run-table",
    response=CalibrationPageOut,
    operation_id="run_calibration_of_table",
    openapi_extra=UPLOAD,
)
def run_calibration_of_table(
    request: HttpRequest, course: CourseKey, name: TableName
) -> CalibrationPageOut:
    """Calibrate a table of answers from elsewhere in the background: CSV with a question's key over
    each column and a learner in each row."""
    person = current_user(request)
    found = course_of_author(person, course, "run_calibration_of_table")
    text = _table(found, uploaded_file(request, MOST_TABLE))
    if not _begin(found, person, table=text, table_name=name):
        raise Conflict(gettext("A calibration is running. Wait until it is done."), code="busy")
    return calibration_page(found, FIRST)


def _begin(course: Course, person: User, **table: str) -> bool:
    """Have a course calibrated, unless it is being calibrated already."""
    with transaction.atomic():
        _, made = CalibrationRun.objects.get_or_create(
            course=course,
            defaults={
                "asked_by": person.username,
                "asked_at": clock.now(),
                "topics": len(course_bank(course).topics),
                **table,
            },
        )
        if made:
            propose_in_background.enqueue(course.pk, person.username)
    return made


def _table(course: Course, content: bytes) -> str:
    """A table as text, once it was read; Unprocessable with what is wrong where."""
    says = gettext("This table can’t be calibrated.")
    try:
        text = content.decode("utf-8-sig")
        table_of(course, text)
    except UnicodeDecodeError as error:
        raise Unprocessable(says, fields={"file": gettext("it isn’t text in UTF-8")}) from error
    except TableInvalid as error:
        raise Unprocessable(says, fields={"file": "\n".join(error.problems)}) from error
    return text


@router.post(
    "/{int:calibration_id}/accept", response=CalibrationPageOut, operation_id="accept_calibration"
)
def accept_calibration(
    request: HttpRequest, course: CourseKey, calibration_id: int, body: FamiliesIn
) -> CalibrationPageOut:
    """Put some curves of a calibration in force, or all; levels are made again."""
    person = current_user(request)
    found = course_of_author(person, course, "accept_calibration")
    calibration = calibration_of(found, calibration_id)
    if calibration.applied_at is not None:
        raise Conflict(gettext("All of it is in use already."), code="already_applied")
    says = gettext("Calibration {number} accepted: {what}")
    with transaction.atomic():
        _refuse_busy(found)
        only = sorted(set(body.families)) or None
        apply_in_background.enqueue(calibration_id, person.username, only)
        _note(found, person, says, calibration_id, body)
    return calibration_page(found, FIRST)


@router.post(
    "/{int:calibration_id}/undo", response=CalibrationPageOut, operation_id="undo_calibration"
)
def undo_calibration(
    request: HttpRequest, course: CourseKey, calibration_id: int, body: FamiliesIn
) -> CalibrationPageOut:
    """Put the curves before a calibration in force again; levels are made again."""
    person = current_user(request)
    found = course_of_author(person, course, "undo_calibration")
    calibration = calibration_of(found, calibration_id)
    every = [one["item"] for one in calibration.proposals]
    says = gettext("Calibration {number} undone: {what}")
    with transaction.atomic():
        _refuse_busy(found)
        undo_in_background.enqueue(calibration_id, person.username, body.families or every)
        _note(found, person, says, calibration_id, body)
    return calibration_page(found, FIRST)


def _refuse_busy(course: Course) -> None:
    if is_busy(course):
        says = gettext("Levels are being worked out again. Try once more in a moment.")
        raise Conflict(says, code="busy")


def _note(course: Course, by: User, says: str, number: int, body: FamiliesIn) -> None:
    what = ", ".join(body.families) or gettext("all of it")
    text = f"{course.title}: {says.format(number=number, what=what)}"
    audit(AuditKind.PUBLISHED, by=by, account=by, says=text)
