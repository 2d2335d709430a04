"""What whoever watches over a test does with an attempt: more time, a pause, and opening it again.

Pure, as all of `attempt`: every function takes the moment and gives a new value.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta

from .attempt import Attempt, as_of, later, moved


def allowed_more(
    attempt: Attempt, limits: tuple[float | None, ...], cut_off: datetime | None, now: datetime
) -> Attempt:
    """Return an open attempt with more time. limits: seconds of each stretch. It never loses time:
    of each limit and of the cut-off, the later one counts."""
    attempt = as_of(attempt, now)
    if attempt.handed_in is not None:
        return attempt
    longer = tuple(
        None if old is None or new is None else max(old, new)
        for old, new in zip(attempt.limits, limits, strict=True)
    )
    end = None
    if attempt.cut_off is not None and cut_off is not None:
        end = max(attempt.cut_off, cut_off)
    return replace(attempt, limits=longer, cut_off=end)


def extended(attempt: Attempt, seconds: float, now: datetime) -> Attempt:
    """Return an open attempt with more seconds in its current stretch, and as much more before the
    cut-off. If neither ends it, nothing changes."""
    attempt = as_of(attempt, now)
    return attempt if attempt.handed_in is not None else _longer(attempt, seconds)


def _longer(attempt: Attempt, seconds: float) -> Attempt:
    limit, cut_off = attempt.limits[attempt.stretch], attempt.cut_off
    longer = list(attempt.limits)
    longer[attempt.stretch] = None if limit is None else limit + seconds
    end = None if cut_off is None else cut_off + timedelta(seconds=seconds)
    return replace(attempt, limits=tuple(longer), cut_off=end)


def paused(attempt: Attempt, now: datetime) -> Attempt:
    """Return an open attempt with its clock stopped: until it is resumed nothing ends it, and
    nothing is saved."""
    attempt = as_of(attempt, now)
    if attempt.handed_in is not None or attempt.paused is not None:
        return attempt
    return replace(attempt, paused=now)


def reopened(attempt: Attempt, seconds: float, now: datetime) -> Attempt:
    """Return an attempt that was handed in as open again, with the time that was left and some more
    seconds. In one sitting the learner has as long to come back as after any absence."""
    if attempt.handed_in is None:
        return attempt
    since = attempt.handed_in.at
    if attempt.intervals:
        last = attempt.intervals[-1]
        attempt = moved(attempt, now - (last.left or last.seen))
    return _longer(replace(later(attempt, now - since, since), handed_in=None), seconds)
