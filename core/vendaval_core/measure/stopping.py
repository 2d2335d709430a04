"""When a topic, and a diagnostic run, has been asked enough. The limits are judgements."""

from __future__ import annotations

from enum import StrEnum

from .level import LevelReading

KNOWN_SD = 0.45
CLEAR_SD = 0.6
CLEAR_CHANCE = 0.9
CLEAR_WIDTH = 25.0
LEAST_GAIN = 0.02
LEAST_ANSWERS = 2


class TopicStatus(StrEnum):
    """Where a topic stands in a diagnostic."""

    OPEN = "open"
    SETTLED = "settled"
    EXHAUSTED = "exhausted"
    """Stopped while its interval is still wide: as far as these questions go."""


def topic_status(
    reading: LevelReading, answers: int, best_gain: float, weighted_variance: float
) -> TopicStatus:
    """Return whether a topic can stop, and why.

    answers: in this topic itself, ever. best_gain: greatest expected fall of weighted variance by a
    family of this topic (logits²). weighted_variance: importance times Var(θ) of this topic. At the
    flat ends of the level scale the ability stays uncertain in logits while the level is known. So
    a narrow level interval is as good as a small sd if the call is clear.
    """
    if answers < LEAST_ANSWERS:
        return TopicStatus.OPEN
    clear = reading.chance >= CLEAR_CHANCE or reading.chance <= 1 - CLEAR_CHANCE
    narrow = reading.sd <= CLEAR_SD or reading.high - reading.low <= CLEAR_WIDTH
    if reading.sd <= KNOWN_SD or (narrow and clear):
        return TopicStatus.SETTLED
    if best_gain < LEAST_GAIN * weighted_variance:
        return TopicStatus.SETTLED if reading.known else TopicStatus.EXHAUSTED
    return TopicStatus.OPEN
