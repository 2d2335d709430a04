"""What an answer, and marks that come later, do to the list of misses."""

from __future__ import annotations

from datetime import datetime

from django.db.models import QuerySet
from django.utils.translation import gettext, gettext_noop

from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.levels.models import Observation
from vendaval.shared.changes import Changes
from vendaval.work.activity import Activity, activities
from vendaval.work.grading import Graded
from vendaval.work.models import Try
from vendaval.work.questions import OpenQuestion

from .models import Miss, MissState

NOT_MENDED = {
    "rapid": gettext_noop("You answered faster than you can read it, so it stays on the list."),
    "gave_up": gettext_noop("You answered very quickly after misses, so it stays on the list."),
    "helped": gettext_noop("You opened help first, so it stays on the list."),
}


def note_miss(graded: Graded, activity: Activity, now: datetime, changes: Changes) -> None:
    """A first try below full points opens a miss, or counts as a failed mend; a right one on a
    fresh version, which counted, mends it."""
    if graded.moved is None or graded.question.presentation.answers_held:
        return
    if graded.missed:
        _miss(graded.question, graded.row, activity, now, changes)
    elif graded.right and _is_missed(graded.question):
        if _is_fresh(graded.question) and graded.moved.weight > 0:
            _mend(graded.question, now, changes)
            graded.mended = True
        elif activity.mends:
            _count_mend(graded.question, changes, failed=False)
            why = NOT_MENDED.get(graded.moved.reason)
            graded.detail = None if why is None else gettext(why)


def note_marks(
    question: OpenQuestion, tried: Try, outcome: int, now: datetime, changes: Changes
) -> None:
    """Marks that came later do to the list what they would have done at once; and a miss whose
    own answer turns out right is none any more."""
    if question.presentation.answers_held:
        return
    if not question.first_right:
        _miss(question, tried, activities().of(question.run), now, changes)
    elif _is_missed(question):
        own = _open_misses(question).filter(presentation=question.presentation).exists()
        weight = Observation.objects.filter(tried=tried).latest("pk").weight
        if own or (_is_fresh(question) and weight > 0):
            _mend(question, now, changes)


def note_answers_shown(question: OpenQuestion, tried: Try, now: datetime, changes: Changes) -> None:
    """The right answers of a question that was held back may be told now: missed, it joins."""
    if not question.state.answer_waits and not question.first_right:
        _miss(question, tried, activities().of(question.run), now, changes)


def note_counting(question: OpenQuestion, counts: bool, now: datetime, changes: Changes) -> None:
    """A question that counts for nothing any more leaves nothing to mend: a miss of its own is
    dropped. Once it counts again the miss is open again, where no other took its place."""
    was, to = MissState.OPEN, MissState.DROPPED
    if counts:
        was, to = to, was
    history = learning_of(question.enrolment).family(question.item.family.key)
    own = Miss.objects.filter(
        enrolment=question.enrolment, presentation=question.presentation, state=was
    )
    if (counts and history.missed is not None) or not own.exists():
        return
    history.missed = question.presentation.seed if counts else None
    changes.then(lambda: own.update(state=to, closed_at=None if counts else now))


def note_read(enrolment: Enrolment, topic: str, section: str, changes: Changes) -> None:
    """A study section was opened: fresh versions of the misses that it explains are offered
    anew."""
    bank = learning_of(enrolment).bank
    explained = [
        key for key, item in bank.families.items() if bank.explains(topic, section, item.family)
    ]
    own = Miss.objects.filter(
        enrolment=enrolment, state=MissState.OPEN, family__key__in=explained, mends__gt=0
    )
    changes.then(lambda: own.update(mends=0))


def _count_mend(question: OpenQuestion, changes: Changes, *, failed: bool) -> None:
    """A fresh version was graded and mended nothing."""
    sitting = learning_of(question.enrolment).row.sitting
    for miss in _open_misses(question):
        miss.mends = miss.mends + 1 if miss.mends_sitting == sitting else 1
        miss.mends_sitting = sitting
        miss.failed_mends += failed
        changes.touch(miss, "mends", "mends_sitting", "failed_mends")


def _is_missed(question: OpenQuestion) -> bool:
    return learning_of(question.enrolment).family(question.item.family.key).missed is not None


def _is_fresh(question: OpenQuestion) -> bool:
    missed = learning_of(question.enrolment).family(question.item.family.key).missed
    return question.item.family.versions == 1 or missed != question.presentation.seed


def _open_misses(question: OpenQuestion) -> QuerySet[Miss]:
    return Miss.objects.filter(
        enrolment=question.enrolment, family_id=question.item.id, state=MissState.OPEN
    )


def _miss(
    question: OpenQuestion, tried: Try, activity: Activity, now: datetime, changes: Changes
) -> None:
    history = learning_of(question.enrolment).family(question.item.family.key)
    if history.missed is not None:
        if activity.mends:
            _count_mend(question, changes, failed=True)
        return
    history.missed = question.presentation.seed
    changes.add(
        Miss(
            enrolment=question.enrolment,
            family_id=tried.family_id,
            topic_id=tried.topic_id,
            presentation=question.presentation,
            sure=tried.confidence or 0,
            opened_at=now,
        )
    )


def _mend(question: OpenQuestion, now: datetime, changes: Changes) -> None:
    learning_of(question.enrolment).family(question.item.family.key).missed = None
    own = _open_misses(question)
    changes.then(lambda: own.update(state=MissState.MENDED, closed_at=now))
