"""Whether set work is regularly too hard or too easy for a learner."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from enum import StrEnum

from vendaval_core.language import gettext, gettext_noop

LATEST = 5
REGULARLY = 4
TOO_LITTLE, TOO_MUCH = 0.5, 0.9


class Challenge(StrEnum):
    """What set work has been, of late."""

    TOO_HARD = "too_hard"
    TOO_EASY = "too_easy"


_WORDS: Mapping[Challenge, str] = {
    Challenge.TOO_HARD: gettext_noop("four of the last five assignments were under 50%"),
    Challenge.TOO_EASY: gettext_noop("four of the last five assignments were over 90%"),
}


def challenge(shares: Sequence[float]) -> Challenge | None:
    """Return "too hard" if four of the latest five pieces were under 50%, "too easy" if four were
    over 90%, otherwise None (common practice, no published source).

    shares: of the points of each piece of set work, 0 to 1, the latest last. Exactly 50 or 90%
    counts for neither.
    """
    latest = shares[-LATEST:]
    if sum(share < TOO_LITTLE for share in latest) >= REGULARLY:
        return Challenge.TOO_HARD
    if sum(share > TOO_MUCH for share in latest) >= REGULARLY:
        return Challenge.TOO_EASY
    return None


def challenge_words(what: Challenge) -> str:
    """Return the same in a few words for a tutor."""
    return gettext(_WORDS[what])
