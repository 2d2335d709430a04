"""Jobs in the background: what they are for, which failed, and beginning one again."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.http import HttpRequest
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound

GOING = (TaskResultStatus.READY, TaskResultStatus.RUNNING)
# A job that runs longer than this has lost its worker.
LOST_AFTER = timedelta(minutes=30)
MOST = 50
MOST_TRIES = 3
FOR = {
    "vendaval.people.mailing.mail_links": "Mailing invitations and other links",
    "vendaval.exams.jobs.hand_in_at_the_end": "Handing in a test whose time is up",
    "vendaval.exams.regrading.jobs.apply_in_background": "Applying a regrade",
    "vendaval.exams.regrading.jobs.undo_in_background": "Taking a regrade back",
    "vendaval.measurement.jobs.apply_in_background": "Putting a calibration in force",
}


@dataclass(frozen=True, slots=True)
class Job:
    """A job as the office sees it. lost: it runs so long that its worker must have stopped.
    again: whether it may be begun again."""

    id: str
    what: str
    state: str
    at: datetime
    ended: datetime | None
    why: str
    again: bool


def latest_jobs() -> list[Job]:
    """Jobs, the newest first; those that failed and were begun again keep their row."""
    rows = DBTaskResult.objects.order_by("-enqueued_at")[:MOST]
    return [_job(row) for row in rows]


def _job(row: DBTaskResult[Any, Any]) -> Job:
    lost = row.status == TaskResultStatus.RUNNING and _is_lost(row)
    failed = row.status == TaskResultStatus.FAILED
    lines = [line for line in row.traceback.strip().splitlines() if line.strip()]
    state = "lost" if lost else row.status.lower()
    return Job(
        id=str(row.pk),
        what=FOR.get(row.task_path, row.task_path),
        state=state,
        at=row.enqueued_at,
        ended=row.finished_at,
        why=lines[-1][:300] if failed and lines else "",
        again=(failed or lost) and not _going(row) and not _went_since(row),
    )


def retry_failed() -> int:
    """Begin jobs again that failed fewer than three times with what they were given; how many.
    What fails more often waits for a person."""
    begun = 0
    failed = DBTaskResult.objects.filter(status=TaskResultStatus.FAILED, task_path__in=FOR)
    rows = list(failed.order_by("-enqueued_at")[:MOST])
    seen: set[str] = set()
    for row in rows:
        same = [one for one in rows if _same(one, row)]
        key = f"{row.task_path} {row.args_kwargs}"
        if key in seen or len(same) >= MOST_TRIES or _going(row) or _went_since(row):
            continue
        seen.add(key)
        _enqueue_again(row)
        begun += 1
    return begun


def _same(one: DBTaskResult[Any, Any], other: DBTaskResult[Any, Any]) -> bool:
    return bool(one.task_path == other.task_path and one.args_kwargs == other.args_kwargs)


def _went_since(row: DBTaskResult[Any, Any]) -> bool:
    """Whether it went well after this failure."""
    later = DBTaskResult.objects.filter(
        task_path=row.task_path,
        status=TaskResultStatus.SUCCESSFUL,
        enqueued_at__gt=row.enqueued_at,
    )
    return any(_same(one, row) for one in later)


def begin_again(job_id: str, by: User, request: HttpRequest) -> None:
    """Put a job that failed or lost its worker back to work, with what it was given; Conflict when
    the same one waits or runs already."""
    with transaction.atomic():
        row = DBTaskResult.objects.filter(pk=job_id).first()
        if row is None:
            raise NotFound("There is no such job.")
        lost = row.status == TaskResultStatus.RUNNING and _is_lost(row)
        if row.status != TaskResultStatus.FAILED and not lost:
            raise Conflict("This job has not failed.", code="job_not_failed")
        if _going(row):
            raise Conflict("The same job waits or runs already.", code="job_going")
        if lost:
            row.status, row.finished_at = TaskResultStatus.FAILED, clock.now()
            row.traceback = "its worker stopped"
            row.save(update_fields=["status", "finished_at", "traceback"])
        _enqueue_again(row)
        says = FOR.get(row.task_path, row.task_path)
        audit(AuditKind.JOB, request=request, by=by, says=says)


def _enqueue_again(row: DBTaskResult[Any, Any]) -> None:
    given = row.args_kwargs
    row.task.enqueue(*given["args"], **given["kwargs"])


def _is_lost(row: DBTaskResult[Any, Any]) -> bool:
    return row.started_at is not None and bool(row.started_at < clock.now() - LOST_AFTER)


def _going(row: DBTaskResult[Any, Any]) -> bool:
    """Whether another job with the same task and arguments waits or runs."""
    others = DBTaskResult.objects.filter(task_path=row.task_path, status__in=GOING)
    return any(
        one.args_kwargs == row.args_kwargs and not _is_lost(one)
        for one in others.exclude(pk=row.pk)
    )
