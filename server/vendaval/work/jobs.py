"""What is done for runs in the background."""

from __future__ import annotations

from django_tasks import task

from .runs import settle_run


@task()
def end_at_deadline(run_id: int) -> bool:
    """End a run whose deadline has passed; enqueued for that moment. Doing it twice is harmless:
    whoever reads the run first settles it."""
    return settle_run(run_id)
