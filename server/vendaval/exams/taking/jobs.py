"""What is done for tests in the background."""

from __future__ import annotations

from django_tasks import task

from .state import bring_up_to_date


@task()
def hand_in_at_the_end(attempt_id: int) -> None:
    """Hand an attempt in whose time is up; enqueued for that moment. Doing it twice is harmless:
    whoever reads the attempt first hands it in."""
    bring_up_to_date(attempt_id)
