"""Jobs in the background as an office sees them: those of its own school."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext, gettext_noop
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from vendaval.exams.models import Attempt, Regrade
from vendaval.measurement.models import Calibration
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.people.one_time_links import open_links
from vendaval.privacy.models import DataCopy
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval.shared.jobs import begin_again as put_back
from vendaval.shared.jobs import is_lost, needs_somebody
from vendaval.work.models import Run

MOST = 50
LOOKED_AT = 400


@dataclass(frozen=True, slots=True)
class About:
    """What a job is for, and whether it is a school's own, by what it was given."""

    what: str
    of: Callable[[School, list[Any]], bool]


def _links(school: School, args: list[Any]) -> bool:
    """Mails links of every school; a school's own while some of its are not sent."""
    unsent = open_links().filter(mailed_at=None)
    return unsent.filter(person__memberships__school=school).exists()


def _attempt(school: School, args: list[Any]) -> bool:
    return Attempt.objects.filter(pk__in=args[:1], enrolment__course__school=school).exists()


def _regrade(school: School, args: list[Any]) -> bool:
    rows = Regrade.objects.filter(pk__in=args[:1])
    return rows.filter(assignment__group__course__school=school).exists()


def _calibration(school: School, args: list[Any]) -> bool:
    return Calibration.objects.filter(pk__in=args[:1], course__school=school).exists()


def _run(school: School, args: list[Any]) -> bool:
    return Run.objects.filter(pk__in=args[:1], enrolment__course__school=school).exists()


def _copy(school: School, args: list[Any]) -> bool:
    rows = DataCopy.objects.filter(pk__in=args[:1])
    return rows.filter(person__memberships__school=school).exists()


JOBS = {
    "vendaval.people.link_mails.mail_links": About(
        gettext_noop("Mailing invitations and other links"), _links
    ),
    "vendaval.exams.taking.jobs.hand_in_at_the_end": About(
        gettext_noop("Handing in a test whose time is up"), _attempt
    ),
    "vendaval.exams.regrading.jobs.apply_in_background": About(
        gettext_noop("Applying a regrade"), _regrade
    ),
    "vendaval.exams.regrading.jobs.undo_in_background": About(
        gettext_noop("Undoing a regrade"), _regrade
    ),
    "vendaval.measurement.jobs.apply_in_background": About(
        gettext_noop("Applying a calibration"), _calibration
    ),
    "vendaval.work.jobs.end_at_deadline": About(
        gettext_noop("Closing a question whose time is up"), _run
    ),
    "vendaval.privacy.jobs.make_copy": About(
        gettext_noop("Making a copy of somebody’s data"), _copy
    ),
}


@dataclass(frozen=True, slots=True)
class Job:
    """A job as the office sees it. lost: its worker stopped, and it is taken up again by itself.
    again: whether it needs somebody to begin it again."""

    id: str
    what: str
    state: str
    at: datetime
    ended: datetime | None
    why: str
    again: bool


def latest_jobs(school: School) -> list[Job]:
    """Jobs of a school, the newest first. What is tried again by itself is not listed as failed."""
    rows = DBTaskResult.objects.filter(task_path__in=JOBS).order_by("-enqueued_at")[:LOOKED_AT]
    own = (row for row in rows if _is_of(school, row))
    return [_job(row) for row, _ in zip(own, range(MOST), strict=False)]


def _is_of(school: School, row: DBTaskResult[Any, Any]) -> bool:
    return JOBS[row.task_path].of(school, row.args_kwargs["args"])


def _job(row: DBTaskResult[Any, Any]) -> Job:
    failed = row.status == TaskResultStatus.FAILED
    again = needs_somebody(row)
    lines = [line for line in row.traceback.strip().splitlines() if line.strip()]
    state = "lost" if is_lost(row, clock.now()) else row.status.lower()
    return Job(
        id=str(row.pk),
        what=gettext(JOBS[row.task_path].what),
        state="ready" if failed and not again else state,
        at=row.enqueued_at,
        ended=row.finished_at,
        why=lines[-1][:300] if failed and lines else "",
        again=again,
    )


def begin_again(school: School, job_id: str, by: User, request: HttpRequest) -> None:
    """Put a job of a school back to work that needs somebody, with what it was given."""
    with transaction.atomic():
        row = DBTaskResult.objects.filter(pk=job_id, task_path__in=JOBS).first()
        if row is None or not _is_of(school, row):
            raise NotFound(gettext("We can’t find this job."))
        if not needs_somebody(row):
            raise Conflict(gettext("This job may still succeed."), code="job_not_failed")
        put_back(row)
        audit(AuditKind.JOB, request=request, by=by, says=JOBS[row.task_path].what)
