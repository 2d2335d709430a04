"""Steps that were put off or turned down: what a learner decided, and how it is respected."""

from __future__ import annotations

from datetime import date, timedelta

from django.db import transaction
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.shared import clock
from vendaval.shared.errors import NotFound, Unprocessable

from .models import StepChoice
from .schemas import PutAsideOut

LATEST = timedelta(days=365)


def local_today() -> date:
    """The present day where the school is."""
    return timezone.localtime(clock.now()).date()


def choices_in_force(enrolment: Enrolment) -> list[StepChoice]:
    """What is put off to a day to come, or turned down."""
    today = local_today()
    rows = StepChoice.objects.filter(enrolment=enrolment, undone_at=None).order_by("until", "pk")
    return [row for row in rows if row.until is None or row.until > today]


def put_aside_out(choices: list[StepChoice]) -> list[PutAsideOut]:
    """What is put aside, as a list to take it back from."""
    return [PutAsideOut(key=row.step, title=row.title, until=row.until) for row in choices]


def put_aside(enrolment: Enrolment, step: str, title: str, until: date | None) -> None:
    """Put a step off to a day, or turn it down. A later choice takes the place of one before."""
    today = local_today()
    if until is not None and not today < until <= today + LATEST:
        raise Unprocessable(
            gettext("Choose a day after today."), fields={"until": gettext("must be after today")}
        )
    with transaction.atomic():
        _undo(enrolment, step)
        StepChoice.objects.create(
            enrolment=enrolment, step=step, title=title, until=until, at=clock.now()
        )


def bring_back(enrolment: Enrolment, step: str) -> None:
    """Take a choice back; NotFound when there is none."""
    if not _undo(enrolment, step):
        raise NotFound(gettext("We can’t find this step."))


def _undo(enrolment: Enrolment, step: str) -> int:
    held = StepChoice.objects.filter(enrolment=enrolment, step=step, undone_at=None)
    return held.update(undone_at=clock.now())
