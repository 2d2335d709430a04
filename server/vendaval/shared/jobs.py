"""Jobs in the background: one whose worker was killed is taken up again, one that failed is tried
again with growing waits, and only what keeps failing needs somebody.

Every job can be done twice without harm. The row of a job stays the same through all its tries, so
what is listed is what is true.
"""

from __future__ import annotations

import logging
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db.models import Q
from django.utils.module_loading import import_string
from django.utils.translation import gettext
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from . import clock
from .models import Worker

# A mail server that is down for an hour should cost no mail.
WAITS = tuple(timedelta(seconds=s) for s in (10, 60, 300, 1800, 7200))
# Workers give a sign of life every few seconds; one that is silent for so long was killed.
SILENT_FOR = timedelta(seconds=45)
# What succeeded of jobs that come again and again is kept for so long.
KEPT_OFTEN = timedelta(minutes=10)
# A job of a worker that gives no signs of life is believed to run for so long.
LOST_AFTER = timedelta(minutes=30)

GOING = (TaskResultStatus.READY, TaskResultStatus.RUNNING)
Row = DBTaskResult[Any, Any]

logger = logging.getLogger("vendaval.jobs")


def tries_of(row: Row) -> int:
    """How often a job was begun."""
    return len(row.worker_ids)


def needs_somebody(row: Row) -> bool:
    """Whether a job failed so often that trying again by itself is over."""
    return row.status == TaskResultStatus.FAILED and tries_of(row) > len(WAITS)


def tried_again_at(row: Row) -> datetime | None:
    """When a job that failed is tried again by itself; None for any other."""
    if row.status != TaskResultStatus.FAILED or needs_somebody(row) or row.finished_at is None:
        return None
    at: datetime = row.finished_at + WAITS[max(0, tries_of(row) - 1)]
    return at


def is_lost(row: Row, now: datetime) -> bool:
    """Whether a job is under way and the worker that had it is gone."""
    if row.status != TaskResultStatus.RUNNING or row.started_at is None:
        return False
    worker = Worker.objects.filter(name=row.worker_ids[-1]).first() if row.worker_ids else None
    if worker is not None:
        return bool(worker.at < now - SILENT_FOR)
    return bool(row.started_at < now - LOST_AFTER)


def is_going(task_path: str, args: Sequence[Any]) -> bool:
    """Whether a job with these arguments waits, runs, or will be tried again by itself."""
    now = clock.now()
    rows = DBTaskResult.objects.filter(task_path=task_path).exclude(
        status=TaskResultStatus.SUCCESSFUL
    )
    same = [row for row in rows if row.args_kwargs["args"] == list(args)]
    return any(
        (row.status in GOING and not is_lost(row, now)) or tried_again_at(row) is not None
        for row in same
    )


def begin_again(row: Row) -> None:
    """Put a job back to work, with what it was given and a fresh count of tries."""
    row.worker_ids = []
    row.save(update_fields=["worker_ids"])
    _put_back(row, clock.now())


def _put_back(row: Row, now: datetime) -> bool:
    kept = DBTaskResult.objects.filter(pk=row.pk, status=row.status, started_at=row.started_at)
    return bool(
        kept.update(status=TaskResultStatus.READY, started_at=None, finished_at=None, run_after=now)
    )


def mind_jobs() -> int:
    """Put back what lost its worker, and what failed and has waited; how many. Harmless when
    several do it at once: each row is put back once."""
    now, put_back = clock.now(), 0
    rows = DBTaskResult.objects.filter(
        Q(status=TaskResultStatus.RUNNING)
        | Q(status=TaskResultStatus.FAILED, finished_at__gt=now - timedelta(days=2))
    )
    for row in rows.order_by("-enqueued_at")[:500]:
        again = tried_again_at(row)
        if is_lost(row, now):
            if tries_of(row) > 2 * len(WAITS):
                _give_up(row, now)
                continue
            logger.warning("job lost its worker", extra={"job": str(row.pk)})
            put_back += _put_back(row, now)
        elif again is not None and again <= now:
            put_back += _put_back(row, now)
    return put_back


def _give_up(row: Row, now: datetime) -> None:
    """A job that takes its worker down each time is not begun again by itself."""
    DBTaskResult.objects.filter(pk=row.pk, status=TaskResultStatus.RUNNING).update(
        status=TaskResultStatus.FAILED,
        finished_at=now,
        traceback=gettext("its worker stopped each time"),
    )


def begin_due() -> None:
    """Begin jobs that are due by the clock: each app that has such ones names a function."""
    for path in settings.DUE:
        import_string(path)()
    done = DBTaskResult.objects.filter(status=TaskResultStatus.SUCCESSFUL)
    old = clock.now() - KEPT_OFTEN
    done.filter(task_path__in=settings.OFTEN, finished_at__lt=old).delete()


def note_alive(name: str) -> None:
    """A worker's sign of life; those of long ago are forgotten."""
    now = clock.now()
    Worker.objects.update_or_create(name=name, defaults={"at": now})
    Worker.objects.filter(at__lt=now - timedelta(days=1)).delete()
