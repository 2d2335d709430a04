"""Rechecks: whether a target that was met still holds some days later.

Four fresh questions from a topic's essential families, at least seven days after it was met
(common practice, no published source); held when it is still likely enough to be at its target.
Then the next comes after twice the days, else the topic goes back to practice.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import cycle, islice, zip_longest

from vendaval_core.language import gettext

from ..words import counted, in_words
from .practice import PracticeFamily

FIRST_AFTER_DAYS = 7.0
# What held for a week is likely to hold for two (expanding intervals, common practice).
GROWS = 2.0
QUESTIONS = 4
# A little below what "met" asked for: four questions move a chance by more than that, and a
# target that holds should not be lost to one slip.
HELD_CHANCE = 0.7
# Twelve questions are what fits into a quarter of an hour.
MOST_TOPICS = 3
LATE_DAYS = 14.0


def recheck_families(families: Sequence[PracticeFamily]) -> list[str]:
    """Return the families of a topic's recheck: four essential ones, those not seen for longest
    first, repeated if there are fewer. Empty for a topic without any."""
    essential = sorted((f for f in families if f.essential), key=lambda f: (f.last_seen, f.key))
    return [family.key for family in islice(cycle(essential), QUESTIONS)] if essential else []


def mixed(plans: Sequence[Sequence[str]]) -> list[str]:
    """Interleave several topics' questions."""
    return [key for turn in zip_longest(*plans) for key in turn if key is not None]


def has_held(chance: float) -> bool:
    """Return whether a target is still met. chance: of being at it after the recheck, 0 to 1."""
    return chance >= HELD_CHANCE


def next_after(days: float) -> float:
    """Return the days until the next recheck of a topic that was still met after `days`."""
    return GROWS * days


def recheck_reason(titles: Sequence[str], days: Sequence[float]) -> str:
    """Return why to take a recheck. titles: of the topics due. days: since each was met or last
    confirmed."""
    first, longest = titles[0].lower(), round(max(days))
    what = first if len(titles) == 1 else counted(len(titles), "target")
    start = gettext("{what}{what2}: you reached the target {days} ago").format(
        what=what[:1].upper(), what2=what[1:], days=counted(longest, "day")
    )
    if len(titles) > 1:
        start = gettext("You reached {what} up to {days} ago").format(
            what=what, days=counted(longest, "day")
        )
    late = ""
    if longest >= LATE_DAYS + FIRST_AFTER_DAYS:
        late = gettext(" We’re less sure by now than the bars show.")
    questions = in_words(QUESTIONS * len(titles)).capitalize()
    holds = "it" if len(titles) == 1 else "them"
    return gettext(
        "{start}. {questions} questions will show if you still know {holds}.{late}"
    ).format(start=start, questions=questions, holds=holds, late=late)


def verdict_words(title: str, held: bool, days: float) -> str:
    """Return the result of a topic's recheck in words. days: until the next one."""
    if held:
        return gettext(
            "{title}: you still know it, so it’s secure. The next check is in {days} days."
        ).format(title=title, days=round(days))
    return gettext(
        "{title}: you’ve forgotten some of it, so you’re probably below the target now. "
        "Practise it again."
    ).format(title=title)
