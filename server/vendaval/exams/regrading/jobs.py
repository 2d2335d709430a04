"""Regrades applied and undone in the background, attempt by attempt: begun again after a stop they
go on where they were."""

from __future__ import annotations

from django_tasks import task

from vendaval.shared.jobs import is_going

from ..models import Regrade, RegradeState
from .applying import apply_all, undo_all

BUSY = (RegradeState.WAITING, RegradeState.APPLYING, RegradeState.UNDOING)


@task()
def apply_in_background(regrade_id: int) -> int:
    """Apply a regrade; how many attempts are through."""
    row = Regrade.objects.select_related("assignment__group__course", "by").get(pk=regrade_id)
    apply_all(row)
    return row.attempts.count()


@task()
def undo_in_background(regrade_id: int) -> int:
    """Take a regrade back; at how many attempts."""
    row = Regrade.objects.select_related("assignment__group__course", "undone_by").get(
        pk=regrade_id
    )
    undo_all(row)
    return row.attempts.filter(undone=True).count()


def resume() -> int:
    """Put regrades back to work that no job has in hand; how many."""
    resumed = 0
    for row in Regrade.objects.filter(state__in=BUSY):
        undoing = row.state == RegradeState.UNDOING
        job = undo_in_background if undoing else apply_in_background
        if not is_going(job.module_path, [row.pk]):
            job.enqueue(row.pk)
            resumed += 1
    return resumed
