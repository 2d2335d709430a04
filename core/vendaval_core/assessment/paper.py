"""Answers on paper: whether pages may come, for how long, and how many.

Common practice, no published source.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

# Long enough to find the phone, too short for a link that was passed on to be of use.
LINK_LASTS = timedelta(minutes=15)
USUAL_MINUTES = 20
MOST_MINUTES = 240
MOST_PAGES = 20
MOST_BYTES = 10 * 1024 * 1024


class PagesWanted(StrEnum):
    """Whether a learner may or must add pages after handing in."""

    NONE = "none"
    MAY = "may"
    MUST = "must"


class PagesState(StrEnum):
    """Where the pages of an attempt stand."""

    NOT_WANTED = "not_wanted"
    BEFORE = "before"
    OPEN = "open"
    ALL_IN = "all_in"
    OVER = "over"


@dataclass(frozen=True, slots=True)
class Paper:
    """What was agreed about pages when an attempt began, and what has become of it.

    minutes: pages are taken for so long after handing in. all_in_at: when the learner said that
    all of them are in. closed_at: when a tutor ended it.
    """

    wanted: PagesWanted = PagesWanted.NONE
    minutes: int = USUAL_MINUTES
    all_in_at: datetime | None = None
    closed_at: datetime | None = None


def pages_until(paper: Paper, handed_in: datetime) -> datetime:
    """Return until when pages can be added, unless the learner or a tutor ends it before."""
    return handed_in + timedelta(minutes=paper.minutes)


def pages_state(paper: Paper, handed_in: datetime | None, now: datetime) -> PagesState:
    """Return whether pages can be added at a moment, and why not. Once ended, it stays ended."""
    if paper.wanted is PagesWanted.NONE:
        return PagesState.NOT_WANTED
    if paper.all_in_at is not None:
        return PagesState.ALL_IN
    if handed_in is None:
        return PagesState.BEFORE
    if paper.closed_at is not None or now >= pages_until(paper, handed_in):
        return PagesState.OVER
    return PagesState.OPEN


def link_until(made: datetime, paper: Paper, handed_in: datetime) -> datetime:
    """Return until when a phone's link is valid: a quarter of an hour, but no longer than pages can
    be added."""
    return min(made + LINK_LASTS, pages_until(paper, handed_in))
