"""The recheck that was left, or the one that is due."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.levels.snapshot import Snapshot
from vendaval.work.models import Purpose
from vendaval_core.mastery.recheck import MOST_TOPICS, QUESTIONS, recheck_reason
from vendaval_core.mastery.steps import Step, StepKind, minutes_for
from vendaval_core.words import counted

from .queries import days_since, due_topics
from .run import RecheckNote


def steps(seen: Snapshot) -> list[Step]:
    """At most one recheck."""
    left = next(iter(seen.runs_of(Purpose.RECHECK)), None)
    if left is not None:
        questions = len(left.note.left) + 1 if isinstance(left.note, RecheckNote) else 1
        topics = seen.learning.bank.topics_of(left.scope)
        title = gettext("Continue the check")
        reason = gettext("{questions} left.").format(
            questions=counted(questions, "question").capitalize()
        )
    else:
        topics = due_topics(seen.learning, seen.now)[:MOST_TOPICS]
        if not topics:
            return []
        questions, title = QUESTIONS * len(topics), gettext("Check you still remember")
        days = [days_since(seen.learning, topic, seen.now) for topic in topics]
        now = seen.learning.readings_at(seen.now)
        chance = min(now[topic.number].chance for topic in topics)
        reason = recheck_reason([topic.title for topic in topics], days, chance)
    minutes = minutes_for(questions, seen.seconds_of(topics))
    run = left.pk if left is not None else None
    return [Step(StepKind.RECHECK, None, title, reason, minutes, questions, 0.95, run)]
