"""Which topics are due for a recheck, and the one under way."""

from __future__ import annotations

from datetime import datetime

from vendaval.bank.snapshot import BankTopic
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs


def due_topics(learning: Learning, now: datetime) -> list[BankTopic]:
    """Topics whose recheck is due, the longest waiting first; none without an essential family, for
    there would be nothing to ask."""
    waiting = [
        (history.recheck_at, topic.number, topic)
        for topic in learning.bank.topics
        if (history := learning.topic(topic.key)).recheck_at is not None
        and history.recheck_at <= now
        and learning.coverage(topic.number).essential
    ]
    return [topic for _, _, topic in sorted(waiting, key=lambda one: one[:2])]


def days_since(learning: Learning, topic: BankTopic, now: datetime) -> float:
    """Days since a topic was met or last held."""
    history = learning.topic(topic.key)
    assert history.recheck_at is not None
    return history.recheck_days + (now - history.recheck_at).total_seconds() / 86400


def recheck_under_way(enrolment: Enrolment) -> Run | None:
    """The recheck that was left, if any."""
    return open_runs(enrolment, Purpose.RECHECK).first()
