"""Taking an answer: the steps that every activity shares around its own choice of what follows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.scoring.tries import TryRules

from .models import Presentation, Purpose
from .opening import open_question, replayed
from .record import LONGEST_COUNTED_SECONDS, Judged, Sent, judge, store
from .replies import Answered, note_of


@dataclass(frozen=True, slots=True)
class AnswerRules:
    """How an activity takes answers.

    learning_follows: whether feedback teaches at once. whole: nothing counts until every part
    has an answer.
    """

    purpose: Purpose
    tries: TryRules
    learning_follows: bool
    whole: bool


def take_answer(
    learner: User,
    presentation_id: int,
    sent: Sent,
    rules: AnswerRules,
    follow: Callable[[Judged, datetime], Presentation | None],
) -> Answered:
    """Take what was sent, once; the caller holds the transaction.

    follow: the activity's part, called for an answer that counts: it closes the question or
    leaves it open, and presents what comes next.
    """
    question = open_question(learner, presentation_id, rules.purpose)
    before = replayed(question, sent.replay_key)
    if before is not None:
        return Answered(question, before, next=before.leads_to)
    now = clock.now()
    judged = judge(
        question,
        sent,
        rules=rules.tries,
        learning_follows=rules.learning_follows,
        whole=rules.whole,
        now=now,
    )
    if not judged.counts:
        return Answered(question, None, judged)
    run = question.presentation.run
    run.seconds += min(judged.row.seconds, LONGEST_COUNTED_SECONDS)
    run.answered += judged.row.first
    following = follow(judged, now)
    run.touched_at = now
    store(judged, leads_to=following, note=note_of(judged), now=now)
    run.save()
    question.tries.append(judged.row)
    return Answered(question, judged.row, next=following)
