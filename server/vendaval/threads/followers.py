"""What a regrade does to threads: a mark that was contested is settled by it."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.work.models import Run

from .models import Thread, ThreadKind, ThreadState

MOST_SAID = 300


def settle_contests(run: Run, family: str, why: str) -> None:
    """The mark of a family in a test became another: whoever contested it has their answer. That
    their points are others is told them in any case."""
    contested = Thread.objects.filter(
        kind=ThreadKind.CONTEST, presentation__run=run, family__key=family
    ).exclude(state=ThreadState.SETTLED)
    contested.update(
        state=ThreadState.SETTLED,
        says=gettext("Mark changed: {why}").format(why=why)[:MOST_SAID],
        settled_at=clock.now(),
        waits_since=None,
    )
