"""Going forward through an attempt where there is no way back: by pages, and by sections."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from enum import StrEnum

from .attempt import Attempt, as_of
from .composition import Place
from .rules import Rules


class Onward(StrEnum):
    """What going forward without a way back leads to."""

    PAGE = "page"
    SECTION = "section"


def position_at_start(rules: Rules, places: Sequence[Place]) -> int:
    """Return the page that forward-only navigation begins at: the first that knows no way back."""
    pages = [place.page for place in places if rules.linear or place.forward_only]
    return min(pages, default=1)


def _pages_ahead(attempt: Attempt) -> list[int]:
    """Pages without a way back after the one reached; of the current section where each has its own
    limit."""
    reached = attempt.reached
    return [
        place.page
        for place in attempt.places
        if attempt.is_forward_only(place)
        and place.page > reached
        and (not attempt.in_stretches or place.section == attempt.stretch)
    ]


def onward(attempt: Attempt, now: datetime) -> Onward | None:
    """Return what `moved_on` leads to now; None if it changes nothing."""
    attempt = as_of(attempt, now)
    if attempt.handed_in is not None or attempt.paused is not None:
        return None
    if _pages_ahead(attempt):
        return Onward.PAGE
    return Onward.SECTION if attempt.stretch + 1 < len(attempt.limits) else None


def moved_on(attempt: Attempt, now: datetime) -> Attempt:
    """Go one page forward where there is no way back, or to the next section if sections have
    limits. At the last one nothing changes."""
    attempt = as_of(attempt, now)
    match onward(attempt, now):
        case Onward.PAGE:
            return replace(attempt, position=min(_pages_ahead(attempt)))
        case Onward.SECTION:
            return replace(attempt, stretches=(*attempt.stretches, now))
    return attempt
