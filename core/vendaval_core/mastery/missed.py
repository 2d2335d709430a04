"""What a group gets wrong most, and which wrong answers are alike."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

FEWEST_LEARNERS = 2
WORD = re.compile(r"[^\W\d_]{3,}")
NUMBER = re.compile(r"[-+−]?\d+(?:[.,:]\d+)*")


@dataclass(frozen=True, slots=True)
class FamilyMissed:
    """A family in a group: learners who answered it, and of them those who missed at their first
    try at least once."""

    family: str
    answered: int
    missed: int


@dataclass(frozen=True, slots=True)
class WrongAnswer:
    """A first answer that was wrong, in words. learner: whose. says: what was said to it, where the
    answer was foreseen; empty where it was not."""

    learner: int
    given: str
    says: str


@dataclass(frozen=True, slots=True)
class Alike:
    """Wrong answers that are one mistake. learners: who made it. given: one of the answers."""

    learners: int
    given: str
    says: str


def most_missed(families: Iterable[FamilyMissed], most: int = 5) -> list[FamilyMissed]:
    """Return the families that most learners missed; of equal ones, the greater share first. A
    family that only one learner missed is left out: it needs no lesson."""
    found = [one for one in families if one.missed >= FEWEST_LEARNERS]
    found.sort(key=lambda one: (-one.missed, -one.missed / one.answered, one.family))
    return found[:most]


def alike(wrong: Sequence[WrongAnswer], most: int = 3) -> list[Alike]:
    """Group wrong answers by mistake, the most frequent first.

    Versions have different numbers. So two answers are the same mistake if both got the same
    feedback apart from numbers, or, without feedback, if they have the same words. A bare number
    with its unit that the author did not foresee is like no other.
    """
    by_kind: dict[tuple[str, str], list[WrongAnswer]] = defaultdict(list)
    for one in wrong:
        said, given = _without_numbers(one.says), _without_numbers(one.given)
        if said:
            by_kind["said", said].append(one)
        elif WORD.search(given):
            by_kind["given", given].append(one)
    found = [
        Alike(len({one.learner for one in same}), _usual(same), same[0].says)
        for same in by_kind.values()
    ]
    found.sort(key=lambda one: -one.learners)
    return found[:most]


def _without_numbers(text: str) -> str:
    return NUMBER.sub("#", text).strip().lower()


def _usual(same: Sequence[WrongAnswer]) -> str:
    given = [one.given for one in same]
    return max(given, key=given.count)
