"""Calibrations of a school's courses: seen, and put in force by a job. Scores never change."""

from __future__ import annotations

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.measurement.jobs import apply_in_background, at_work
from vendaval.measurement.models import Calibration
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared.errors import Conflict, NotFound

from .system_schemas import CalibrationAskOut, CalibrationLineOut

MOST = 10
MOST_ASKS = 40


def calibrations_of(school: School) -> list[CalibrationLineOut]:
    """The newest first."""
    waiting = at_work()
    rows = Calibration.objects.filter(course__school=school).select_related("course")
    return [
        CalibrationLineOut(
            id=row.pk,
            course=row.course.title,
            made_by=row.made_by,
            made_at=row.made_at,
            families=sum(one["proposed"] is not None for one in row.proposals),
            answers=row.responses,
            applied_by=row.applied_by,
            applied_at=row.applied_at,
            waits=row.pk in waiting,
            asks=_asks(row),
        )
        for row in rows.order_by("-pk")[:MOST]
    ]


def _asks(calibration: Calibration) -> list[CalibrationAskOut]:
    """What a calibration would have authors look at; the first ones."""
    found = [
        CalibrationAskOut(family=one["item"], says=says)
        for one in calibration.proposals
        for says in one.get("asks", [])
    ]
    return found[:MOST_ASKS]


def apply_soon(school: School, calibration_id: int, by: User, request: HttpRequest) -> None:
    """Have a calibration put in force; Conflict for one that is, or is about to be."""
    row = Calibration.objects.filter(pk=calibration_id, course__school=school).first()
    if row is None:
        raise NotFound(gettext("Your school doesn’t have this calibration."))
    with transaction.atomic():
        if row.applied_at is not None or row.pk in at_work():
            raise Conflict(gettext("It’s already in use, or will be soon."), code="already_applied")
        apply_in_background.enqueue(row.pk, by.username)
        says = gettext("calibration {pk} applied").format(pk=row.pk)
        audit(AuditKind.SETTINGS, request=request, by=by, says=says)
