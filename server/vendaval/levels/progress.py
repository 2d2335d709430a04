"""Topics of a run with their levels, as shown while answering."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.payload import reading_out
from vendaval.work.schemas import TopicProgressOut, TopicStatusName

from .learning import Learning
from .standing import is_reached


def progress_of(
    learning: Learning,
    topics: Sequence[BankTopic],
    status: Callable[[BankTopic], TopicStatusName] | None = None,
) -> list[TopicProgressOut]:
    """Each topic with its level and where it stands: settled once its target is met, unless the
    activity says otherwise."""
    return [
        TopicProgressOut(
            key=topic.key,
            title=topic.title,
            status=status(topic) if status is not None else _by_target(learning, topic),
            reading=reading_out(learning.readings[topic.number]),
        )
        for topic in topics
    ]


def _by_target(learning: Learning, topic: BankTopic) -> TopicStatusName:
    return "settled" if is_reached(learning, topic, learning.readings[topic.number]) else "open"
