"""Where topics stand to their targets: the one place that every page, of whatever role, asks."""

from __future__ import annotations

from vendaval.bank.snapshot import BankTopic
from vendaval_core.mastery.reached import Reached, TopicState, state_of
from vendaval_core.measure.level import LevelReading

from .learning import Learning


def topic_state(learning: Learning, topic: BankTopic, reading: LevelReading) -> TopicState:
    """What is plainly so of a topic. reading: its level now."""
    history = learning.topic(topic.key)
    return state_of(
        reading,
        taught=learning.taught(topic),
        met=bool(history.met_at),
        secure=history.secure,
        lost=history.lost,
    )


def is_reached(learning: Learning, topic: BankTopic, reading: LevelReading) -> bool:
    """Whether a topic's target is reached and has not become doubtful."""
    return topic_state(learning, topic, reading) in {"met", "secure"}


def reached_by(learning: Learning) -> Reached:
    """How many targets a learner has reached."""
    readings = learning.readings
    return Reached.of(
        (
            topic_state(learning, topic, reading),
            reading.known and round(reading.level) >= round(reading.target),
        )
        for topic, reading in zip(learning.bank.topics, readings, strict=True)
    )
