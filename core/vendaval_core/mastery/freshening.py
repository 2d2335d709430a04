"""Freshening: some questions over topics that were known and, with time, are less so."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from ..measure.level import LevelReading

# A level within 30 points still says which topics to practise; wider it does not.
TOO_WIDE = 30.0
AT_MOST_EVERY = timedelta(days=7)
FEWEST, MOST = 10, 15
PER_TOPIC = 3


def faded(now: Sequence[LevelReading], before: Sequence[LevelReading]) -> list[int]:
    """Return the topics, by number, whose interval was at most 30 points wide when they were last
    practised and has grown since. now: readings with the time since; before: readings without it.
    """
    return [
        number
        for number, (present, past) in enumerate(zip(now, before, strict=True))
        if past.high - past.low <= TOO_WIDE < present.high - present.low
    ]


def freshening_due(topics: int, last: datetime | None, now: datetime) -> bool:
    """Return whether to offer an update of levels: some topic has faded, and at most once a
    week."""
    return topics > 0 and (last is None or now - last >= AT_MOST_EVERY)


def freshening_questions(topics: int) -> int:
    """Return how many questions such an update takes for a number of topics, 10 to 15."""
    return max(FEWEST, min(MOST, PER_TOPIC * topics))
