"""What an answer does to the list of misses."""

from __future__ import annotations

from datetime import datetime

from django.db.models import F

from vendaval.levels.learning import learning_of
from vendaval.shared.changes import Changes
from vendaval.work.activity import Activity
from vendaval.work.taking import Taken

from .models import Miss, MissState

NOT_MENDED = {
    "rapid": "It came faster than it can be read, so the miss stays on the list.",
    "helped": "Help was opened first, so the miss stays on the list.",
}


def note_miss(taken: Taken, activity: Activity, now: datetime, changes: Changes) -> None:
    """A first try below full points opens a miss, or counts as a failed mend; a right one on a
    fresh version, which counted, mends it."""
    if not (taken.missed or taken.right) or taken.moved is None:
        return
    question = taken.question
    history = learning_of(question.enrolment).family(question.item.family.key)
    own = Miss.objects.filter(
        enrolment=question.enrolment, family_id=question.item.id, state=MissState.OPEN
    )
    if taken.missed:
        if history.missed is None:
            history.missed = question.presentation.seed
            changes.add(_opened(taken, now))
        elif activity.mends:
            changes.then(lambda: own.update(failed_mends=F("failed_mends") + 1))
        return
    if history.missed is None:
        return
    one_version = question.item.family.versions == 1
    fresh = one_version or history.missed != question.presentation.seed
    if fresh and taken.moved.weight > 0:
        history.missed = None
        changes.then(lambda: own.update(state=MissState.MENDED, closed_at=now))
        taken.mended = True
    elif activity.mends:
        taken.detail = NOT_MENDED.get(taken.moved.reason)


def _opened(taken: Taken, now: datetime) -> Miss:
    return Miss(
        enrolment=taken.question.enrolment,
        family_id=taken.row.family_id,
        topic_id=taken.row.topic_id,
        presentation=taken.question.presentation,
        sure=taken.row.confidence or 0,
        opened_at=now,
    )
