"""Regrades applied and undone in the background, attempt by attempt: begun again after a stop they
go on where they were."""

from __future__ import annotations

from django_tasks import task

from ..models import Regrade
from .applying import apply_all, undo_all


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
