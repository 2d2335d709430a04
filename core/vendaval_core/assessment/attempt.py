"""One learner's go at a test: what may be done at a moment, and what time has done by then.

Pure: every function takes the moment and gives a new value. A stretch is what one limit is for:
the whole test, or one section after the other where sections have limits of their own.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum

from .clock import (
    BACK_WITHIN,
    MOST_PAUSED,
    SAVE_AFTER_END,
    Extra,
    Interval,
    seconds_used,
)
from .composition import Composition, Place
from .rules import ClockKind, LateWork, Rules


class HandedInBy(StrEnum):
    """Who or what handed an attempt in."""

    LEARNER = "learner"
    CLOCK = "clock"
    LEAVING = "leaving"
    TUTOR = "tutor"


class Refusal(StrEnum):
    """Why nothing can be changed."""

    HANDED_IN = "handed_in"
    TIME_IS_UP = "time_is_up"
    BEHIND = "behind"
    NOT_YET = "not_yet"
    ELSEWHERE = "elsewhere"
    NOT_ENTERED = "not_entered"
    PAUSED = "paused"


@dataclass(frozen=True, slots=True)
class HandedIn:
    """at: by the server's clock, and never after the end of the time."""

    at: datetime
    by: HandedInBy


@dataclass(frozen=True, slots=True)
class Attempt:
    """How an attempt stands.

    limits: seconds of each stretch, None without. stretches: when each that was reached began.
    position: the page that forward-only navigation was moved to (see `Place.page`, `reached`).
    cut_off: when closing, or the time work is due where late work is not taken, ends it whatever
    the clock says. paused: since when whoever watches over it has stopped its clock. places: its
    questions.
    """

    rules: Rules
    limits: tuple[float | None, ...]
    stretches: tuple[datetime, ...]
    cut_off: datetime | None = None
    intervals: tuple[Interval, ...] = ()
    position: int = 1
    handed_in: HandedIn | None = None
    paused: datetime | None = None
    places: tuple[Place, ...] = ()

    @property
    def begun(self) -> datetime:
        """When its clock started."""
        return self.stretches[0]

    @property
    def stretch(self) -> int:
        """The stretch that it is in, from 0."""
        return len(self.stretches) - 1

    @property
    def in_stretches(self) -> bool:
        """Whether its sections have limits of their own, so that one comes after the other."""
        return len(self.limits) > 1

    def is_forward_only(self, place: Place) -> bool:
        """Whether there is no way back to a place once it was left."""
        return self.rules.linear or place.forward_only

    @property
    def reached(self) -> int:
        """The page that forward-only navigation is at: never before the section that is open, which
        begins by itself when the one before it is over."""
        if not self.in_stretches:
            return self.position
        pages = (place.page for place in self.places if place.section == self.stretch)
        return max(self.position, next(pages, 1))


def limits_of(composition: Composition, rules: Rules, extra: Extra) -> tuple[float | None, ...]:
    """Return the seconds that a learner has for each stretch (None: no limit), extra time
    included."""
    if not composition.section_minutes:
        seconds = None if rules.minutes is None else 60.0 * rules.minutes
        return (extra.applied(seconds),)
    return tuple(
        extra.applied(None if section.minutes is None else 60.0 * section.minutes)
        for section in composition.sections
    )


def cut_off_of(rules: Rules, due: datetime | None, closes: datetime | None) -> datetime | None:
    """Return when work is cut off: at closing, or at the due time if late work is not accepted.
    None if neither is set."""
    ends = [closes, due if rules.late is LateWork.NOT_TAKEN else None]
    return min((end for end in ends if end is not None), default=None)


def resumed(attempt: Attempt, now: datetime) -> Attempt:
    """Return a paused attempt as it continues: every end moves later by the length of the pause."""
    if attempt.paused is None:
        return attempt
    gap = min(now - attempt.paused, MOST_PAUSED)
    if attempt.intervals and attempt.intervals[-1].left is None:
        attempt = moved(attempt, gap)
    return replace(later(attempt, gap, attempt.paused or now), paused=None)


def moved(attempt: Attempt, gap: timedelta) -> Attempt:
    """Return an attempt whose last interval starts `gap` later and lasts as long as before."""
    last = attempt.intervals[-1]
    left_ = None if last.left is None else last.left + gap
    again = Interval(last.id, last.entered + gap, last.seen + gap, left_)
    return replace(attempt, intervals=(*attempt.intervals[:-1], again))


def later(attempt: Attempt, gap: timedelta, since: datetime) -> Attempt:
    """Move the end of the current stretch and the cut-off by `gap`, the time that did not count."""
    stretches = attempt.stretches
    if attempt.rules.clock is ClockKind.RUNS_ON or stretches[-1] > since:
        stretches = (*stretches[:-1], stretches[-1] + gap)
    cut_off = None if attempt.cut_off is None else attempt.cut_off + gap
    return replace(attempt, stretches=stretches, cut_off=cut_off)


def _earlier(one: datetime | None, other: datetime | None) -> datetime | None:
    return min((at for at in (one, other) if at is not None), default=None)


def stretch_ends(attempt: Attempt, now: datetime) -> datetime | None:
    """Return when the current stretch ends if nobody leaves before; None if that is not fixed."""
    if attempt.paused is not None:
        return None
    limit = attempt.limits[attempt.stretch]
    if limit is None:
        return attempt.cut_off
    began = attempt.stretches[-1]
    if attempt.rules.clock is ClockKind.RUNS_ON:
        return _earlier(began + timedelta(seconds=limit), attempt.cut_off)
    left = limit - seconds_used(attempt.intervals, began, now)
    if attempt.intervals and attempt.intervals[-1].open(now):
        return _earlier(now + timedelta(seconds=left), attempt.cut_off)
    if left <= 0:
        return _earlier(_used_up(attempt, limit), attempt.cut_off)
    return attempt.cut_off


def _used_up(attempt: Attempt, limit: float) -> datetime:
    """When the last second of a clock that stops was used."""
    at, used = attempt.begun, 0.0
    for i, interval in enumerate(attempt.intervals):
        following = attempt.intervals[i + 1].entered if i + 1 < len(attempt.intervals) else None
        end = interval.ends(datetime.max.replace(tzinfo=interval.seen.tzinfo))
        end = end if following is None else min(end, following)
        start = max(interval.entered, attempt.begun)
        span = max(0.0, (end - start).total_seconds())
        if used + span >= limit:
            return start + timedelta(seconds=limit - used)
        used, at = used + span, end
    return at


def seconds_left(attempt: Attempt, now: datetime) -> float | None:
    """Return the seconds left of the current stretch, 0 or more, up to the cut-off; None without a
    limit."""
    if attempt.paused is not None:
        now, attempt = attempt.paused, replace(attempt, paused=None)
    limit = attempt.limits[attempt.stretch]
    if limit is None:
        return _until(attempt.cut_off, now)
    if attempt.rules.clock is ClockKind.RUNS_ON:
        return _until(stretch_ends(attempt, now), now)
    left = max(0.0, limit - seconds_used(attempt.intervals, attempt.begun, now))
    cut = _until(attempt.cut_off, now)
    return left if cut is None else min(left, cut)


def _until(end: datetime | None, now: datetime) -> float | None:
    return None if end is None else max(0.0, (end - now).total_seconds())


def as_of(attempt: Attempt, now: datetime) -> Attempt:
    """Return the attempt as time has made it by `now`: later stretches started, or handed in by the
    clock or for being away too long in one sitting. Calling it again changes nothing."""
    if attempt.paused is not None:
        if now < attempt.paused + MOST_PAUSED:
            return attempt
        attempt = resumed(attempt, now)
    while attempt.handed_in is None:
        gone = _stayed_away(attempt, now)
        end = stretch_ends(attempt, now)
        if gone is not None and (end is None or gone < end):
            return _handed_in(attempt, gone, HandedInBy.LEAVING)
        if end is None or end > now:
            return attempt
        last = attempt.stretch + 1 == len(attempt.limits)
        if last or end == attempt.cut_off:
            return _handed_in(attempt, end, HandedInBy.CLOCK)
        attempt = replace(attempt, stretches=(*attempt.stretches, end))
    return attempt


def _stayed_away(attempt: Attempt, now: datetime) -> datetime | None:
    """When a learner had been away from one sitting for too long, if they have."""
    if not attempt.rules.one_sitting or not attempt.intervals:
        return None
    last = attempt.intervals[-1]
    gone = (last.left or last.seen) + BACK_WITHIN
    return gone if gone <= now else None


def _handed_in(attempt: Attempt, at: datetime, by: HandedInBy) -> Attempt:
    intervals = attempt.intervals
    if intervals and intervals[-1].left is None:
        end = max(intervals[-1].entered, min(at, intervals[-1].ends(at)))
        intervals = (*intervals[:-1], replace(intervals[-1], left=end))
    return replace(attempt, handed_in=HandedIn(at, by), intervals=intervals)


def hand_in(attempt: Attempt, by: HandedInBy, now: datetime) -> Attempt:
    """Hand the attempt in, now or when time did it before. An attempt that was handed in stays as
    it is."""
    attempt = as_of(resumed(attempt, now), now)
    return attempt if attempt.handed_in else _handed_in(attempt, now, by)


def entered(attempt: Attempt, interval: int, now: datetime) -> Attempt:
    """Start an interval: the learner opens the attempt, and any earlier interval ends. An attempt
    that was handed in does not change. An interval opened in a pause starts when the pause ends."""
    attempt = as_of(attempt, now)
    if attempt.handed_in is not None:
        return attempt
    now = attempt.paused or now
    intervals = attempt.intervals
    if intervals and intervals[-1].left is None:
        intervals = (*intervals[:-1], replace(intervals[-1], left=intervals[-1].ends(now)))
    return replace(attempt, intervals=(*intervals, Interval(interval, now, now)))


def signed(attempt: Attempt, interval: int, now: datetime) -> Attempt:
    """Note a sign of life from the current interval. If it was silent for longer than an interval
    stays alive, its page was open all the same, so its clock ran."""
    attempt = as_of(attempt, now)
    if attempt.handed_in is not None or attempt.paused is not None or not attempt.intervals:
        return attempt
    last = attempt.intervals[-1]
    if last.id != interval or last.left is not None:
        return attempt
    return as_of(replace(attempt, intervals=(*attempt.intervals[:-1], _seen(last, now))), now)


def _seen(interval: Interval, now: datetime) -> Interval:
    return replace(interval, seen=max(interval.seen, now))


def left(attempt: Attempt, interval: int, now: datetime) -> Attempt:
    """End the interval: the learner leaves. In one sitting this hands in; otherwise the clock may
    stop. Leaving in a pause hands nothing in, because everybody leaves when a building is cleared.
    """
    attempt = signed(attempt, interval, now)
    if attempt.handed_in is not None or not attempt.intervals:
        return attempt
    last = attempt.intervals[-1]
    if last.id != interval or last.left is not None:
        return attempt
    if attempt.paused is not None:
        now = max(last.entered, attempt.paused)
        if attempt.rules.one_sitting:
            return attempt
    elif attempt.rules.one_sitting:
        return _handed_in(attempt, now, HandedInBy.LEAVING)
    return replace(attempt, intervals=(*attempt.intervals[:-1], replace(last, left=now)))


def refusal(attempt: Attempt, place: Place, interval: int, now: datetime) -> Refusal | None:
    """Return why an answer at a place can't be changed from an interval, or None if it can. Only
    the current interval may change answers, so nobody answers beside the clock. What arrives within
    15 s after the clock handed in, or after a pause started, was written before and still counts.
    """
    attempt = as_of(attempt, now)
    over = _over(attempt, now)
    if over is not None:
        return over
    if attempt.paused is not None and now > attempt.paused + SAVE_AFTER_END:
        return Refusal.PAUSED
    if not attempt.intervals:
        return Refusal.NOT_ENTERED
    last = attempt.intervals[-1]
    if last.id != interval:
        return Refusal.ELSEWHERE
    if last.left is not None and attempt.handed_in is None:
        # Else whoever leaves at once could answer while the clock stands still.
        return Refusal.NOT_ENTERED
    return _out_of_reach(attempt, place, now)


def can_be_reached(attempt: Attempt, place: Place, now: datetime) -> bool:
    """Return whether the person who has the attempt open can change the answer at a place."""
    attempt = as_of(attempt, now)
    return _over(attempt, now) is None and _out_of_reach(attempt, place, now) is None


def _over(attempt: Attempt, now: datetime) -> Refusal | None:
    if attempt.handed_in is None:
        return None
    if attempt.handed_in.by is not HandedInBy.CLOCK:
        return Refusal.HANDED_IN
    return Refusal.TIME_IS_UP if now > attempt.handed_in.at + SAVE_AFTER_END else None


def _out_of_reach(attempt: Attempt, place: Place, now: datetime) -> Refusal | None:
    if attempt.in_stretches:
        # What was made before a section's end may still be on its way.
        begun = attempt.stretches[-1]
        behind = place.section < attempt.stretch
        just = place.section == attempt.stretch - 1 and now <= begun + SAVE_AFTER_END
        if behind:
            gone = attempt.is_forward_only(place) and place.page != attempt.position
            return None if just and not gone else Refusal.BEHIND
        if place.section > attempt.stretch:
            return Refusal.NOT_YET
    at = attempt.reached
    if attempt.is_forward_only(place) and place.page != at:
        return Refusal.BEHIND if place.page < at else Refusal.NOT_YET
    return None


def may_be_marked(attempt: Attempt, now: datetime) -> bool:
    """Return whether no save can count any more, so that the answers can be marked."""
    if attempt.handed_in is None:
        return False
    by_clock = attempt.handed_in.by is HandedInBy.CLOCK
    return not by_clock or now > attempt.handed_in.at + SAVE_AFTER_END
