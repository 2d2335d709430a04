"""How much a try counts, and where sittings begin."""

from __future__ import annotations

from enum import StrEnum

SITTING_GAP_SECONDS = 30 * 60
SAME_FAMILY_WEIGHT = 0.5
RAPID_SHARE = 0.1
RAPID_MOST_SECONDS = 10.0


class WeightReason(StrEnum):
    """Why a try counts as much as it does."""

    FULL = "full"
    SAME_FAMILY = "same_family"
    HELPED = "helped"
    RAPID = "rapid"


def rapid_threshold(mean_seconds: float) -> float:
    """Seconds under which an answer is a rapid one: NT10, Wise and Ma 2012."""
    return min(RAPID_MOST_SECONDS, RAPID_SHARE * mean_seconds)


def weight_of(
    *,
    family_in_sitting: bool,
    helped: bool,
    seconds: float,
    mean_seconds: float,
    not_taught: bool = False,
) -> tuple[float, WeightReason]:
    """Weight (0, 0.5 or 1) of a first try and the reason for it.

    not_taught: that something was not taught is said as soon as it is seen, so it is never rapid.
    """
    if helped:
        return 0.0, WeightReason.HELPED
    if not not_taught and seconds < rapid_threshold(mean_seconds):
        return 0.0, WeightReason.RAPID
    if family_in_sitting:
        return SAME_FAMILY_WEIGHT, WeightReason.SAME_FAMILY
    return 1.0, WeightReason.FULL


def starts_sitting(seconds_since_last: float | None) -> bool:
    """Whether an answer begins a new sitting: the first ever, or after 30 minutes without one."""
    return seconds_since_last is None or seconds_since_last > SITTING_GAP_SECONDS
