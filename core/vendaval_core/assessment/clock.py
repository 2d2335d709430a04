"""The clock of an attempt: when it began, what has been used of it, and when it ends.

The server's clock decides. Time with a clock that stops is counted in intervals from entering to
leaving; whoever gives no sign of life for 45 s has left by then.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

# Fetching the questions costs a learner nothing: the clock starts when they are shown, at the
# latest half a minute after they were sent, so that nobody reads them without a clock.
LOADING = timedelta(seconds=30)
# The page says every 15 s that it is open; three signs may be lost before it counts as left.
SIGN_EACH = timedelta(seconds=15)
ALIVE_FOR = timedelta(seconds=45)
# What was typed in the last second is still on its way when time is up: a slow line is no
# reason to lose it.
SAVE_AFTER_END = timedelta(seconds=15)
# In one sitting, leaving hands in. A connection that drops is not leaving: ten minutes are
# enough to find another one, and too few to look everything up elsewhere (a judgement).
BACK_WITHIN = timedelta(minutes=10)
# A pause that nobody ends ends by itself, so that no attempt stays open for ever.
MOST_PAUSED = timedelta(hours=24)


@dataclass(frozen=True, slots=True)
class Interval:
    """A time spent in an attempt. seen: latest sign of life. left: None while it goes on."""

    id: int
    entered: datetime
    seen: datetime
    left: datetime | None = None

    def ends(self, now: datetime) -> datetime:
        """Until when it counts, as seen at a moment."""
        return self.left or min(now, self.seen + ALIVE_FOR)

    def open(self, now: datetime) -> bool:
        """Whether somebody is there."""
        return self.left is None and now <= self.seen + ALIVE_FOR


@dataclass(frozen=True, slots=True)
class Extra:
    """What one learner is allowed beside the limit. times: 1.25 is a quarter more. minutes: more
    on top."""

    times: float = 1.0
    minutes: float = 0.0

    def applied(self, seconds: float | None) -> float | None:
        """A limit with it."""
        return None if seconds is None else seconds * self.times + 60 * self.minutes


def begins_at(confirmed: datetime, loaded: datetime | None) -> datetime:
    """Return when the clock starts: once everything is loaded, but at most 30 s after the start was
    confirmed."""
    latest = confirmed + LOADING
    return latest if loaded is None else max(confirmed, min(loaded, latest))


def seconds_used(intervals: Sequence[Interval], begun: datetime, now: datetime) -> float:
    """Return the seconds spent inside since `begun`. Intervals are in the order of entering; one
    ends where the next starts."""
    used = 0.0
    for i, interval in enumerate(intervals):
        end = interval.ends(now)
        if i + 1 < len(intervals):
            end = min(end, intervals[i + 1].entered)
        used += max(0.0, (min(end, now) - max(interval.entered, begun)).total_seconds())
    return used
