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
# From so many answers on, a narrow level that is neither above nor below the target stays so for
# a long time: practice tells sooner than more of these questions.
CLOSE_ANSWERS = 5
CLOSE_WITHIN = 25.0
CLOSE_CHANCE = 0.8


class TopicStatus(StrEnum):
    """Where a topic stands in a diagnostic."""

    OPEN = "open"
    SETTLED = "settled"
    EXHAUSTED = "exhausted"
    """Stopped while its interval is still wide: as far as these questions go."""
    CLOSE = "close"
    """Close to the target, above or below: practice will tell."""


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
    near = max(reading.target - reading.low, reading.high - reading.target) <= CLOSE_WITHIN
    unclear = 1 - CLOSE_CHANCE < reading.chance < CLOSE_CHANCE
    if narrow and near and unclear and answers >= CLOSE_ANSWERS:
        return TopicStatus.CLOSE
    if best_gain < LEAST_GAIN * weighted_variance:
        return TopicStatus.SETTLED if reading.known else TopicStatus.EXHAUSTED
    return TopicStatus.OPEN
