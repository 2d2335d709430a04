"""How much a try counts, and where sittings begin."""

from __future__ import annotations

from enum import StrEnum

SITTING_GAP_SECONDS = 30 * 60
# Another version of the same idea in one sitting says half as much: what was seen minutes ago
# is remembered. Counted in full, learners who repeat a few ideas were called at their target
# too early (docs/measurement.md, "Met").
SAME_FAMILY_WEIGHT = 0.5
# Below a tenth of the usual time nobody has read the question: NT10, Wise and Ma 2012, who
# hold it to ten seconds at the most.
RAPID_SHARE = 0.1
RAPID_MOST_SECONDS = 10.0
# A browser says when it showed a question. Later than this it is not believed: who holds a
# question back could make a miss look rapid, and lose nothing by it.
SHOWN_WITHIN_SECONDS = 30.0
# Help opened on a question is still in mind for its other versions on the same day.
HELP_REMEMBERED_SECONDS = 24 * 3600.0


class WeightReason(StrEnum):
    """Why a try counts as much as it does."""

    FULL = "full"
    SAME_FAMILY = "same_family"
    HELPED = "helped"
    RAPID = "rapid"
    GAVE_UP = "gave_up"
    COLLECTION = "collection"


UNTRIED = frozenset({WeightReason.RAPID, WeightReason.GAVE_UP})


def rapid_threshold(mean_seconds: float) -> float:
    """Return the seconds below which an answer is rapid: NT10, Wise and Ma 2012."""
    return min(RAPID_MOST_SECONDS, RAPID_SHARE * mean_seconds)


def seconds_had(until_shown: float | None, until_answered: float) -> float | None:
    """Return the seconds that a learner had for a question, to judge whether an answer was rapid.

    until_shown, until_answered: seconds since the question was made. A report that it was shown
    more than half a minute later is not believed: somebody who holds the question back could make a
    miss "rapid". None if the clock went back in between, so that nothing is known.
    """
    shown = 0.0 if until_shown is None else min(until_shown, SHOWN_WITHIN_SECONDS)
    had = until_answered - shown
    return had if had >= 0 else None


def weight_of(
    *,
    family_in_sitting: bool,
    helped: bool,
    seconds: float | None,
    mean_seconds: float,
    gave_up: bool = False,
    not_taught: bool = False,
    collected: bool = False,
) -> tuple[float, WeightReason]:
    """Return the weight (0, 0.5 or 1) of a first try and the reason for it.

    seconds: that the learner had for it; None if unknown, which is not rapid. gave_up: see
    `Effort`. not_taught: people say at once that something wasn't taught, so that is never rapid.
    collected: whether the question is of a group's own collection, which no author of the course
    has looked at.
    """
    if collected:
        return 0.0, WeightReason.COLLECTION
    if helped:
        return 0.0, WeightReason.HELPED
    if not not_taught and seconds is not None and seconds < rapid_threshold(mean_seconds):
        return 0.0, WeightReason.RAPID
    if gave_up and not not_taught:
        return 0.0, WeightReason.GAVE_UP
    if family_in_sitting:
        return SAME_FAMILY_WEIGHT, WeightReason.SAME_FAMILY
    return 1.0, WeightReason.FULL


def starts_sitting(seconds_since_last: float | None) -> bool:
    """Return whether an answer starts a new sitting: the first ever (None), or after 30 minutes
    without one."""
    return seconds_since_last is None or seconds_since_last > SITTING_GAP_SECONDS
