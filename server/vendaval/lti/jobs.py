"""Scores sent to platforms, in the background."""

from __future__ import annotations

from django_tasks import task

from vendaval.shared import clock
from vendaval.shared.jobs import is_going

from . import scores
from .models import Platform


@task()
def send_scores(number: int) -> None:
    """Send a platform the scores that wait for it."""
    platform = Platform.objects.filter(pk=number, on=True).first()
    if platform is not None:
        scores.send(platform)


def begin_due() -> None:
    """See which scores are out by now, and send what is due."""
    now = clock.now()
    for link in scores.links_due(now):
        scores.look_at(link)
    for platform in scores.platforms_due(now):
        if not is_going(send_scores.module_path, [platform.pk]):
            send_scores.enqueue(platform.pk)
