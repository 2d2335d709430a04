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


@task()
def look_at_scores() -> None:
    """See which scores are out by now."""
    for link in scores.links_due(clock.now()):
        scores.look_at(link)


def begin_due() -> None:
    """See which scores are out by now, and send what is due."""
    now = clock.now()
    if scores.links_due(now) and not is_going(look_at_scores.module_path, []):
        look_at_scores.enqueue()
    for platform in scores.platforms_due(now):
        if not is_going(send_scores.module_path, [platform.pk]):
            send_scores.enqueue(platform.pk)
