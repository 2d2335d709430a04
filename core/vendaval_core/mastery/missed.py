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
    """The families that most learners missed, of as many the greater share first. One learner alone
    is no matter for a lesson."""
    found = [one for one in families if one.missed >= FEWEST_LEARNERS]
    found.sort(key=lambda one: (-one.missed, -one.missed / one.answered, one.family))
    return found[:most]


def alike(wrong: Sequence[WrongAnswer], most: int = 3) -> list[Alike]:
    """Wrong answers put together, the one that most learners gave first.

    Versions differ in their numbers, so two answers are one mistake where the same was said to
    them but for numbers, or, where nothing was said, the same words were given. An answer that is
    a bare number with its unit and was not foreseen is like no other.
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
