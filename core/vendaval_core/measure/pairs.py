"""Two learners with the same answers in the same versions: every pair of a group looked at."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

from .signals import SURE_OF_PAIRS, answer_chance, at_least, for_pairs, omega

RIGHT = "right"
FEWEST_COMMON = 10
FEWEST_SAME_WRONG = 2
# In smaller groups nobody can say how usual a wrong answer is.
FEWEST_SHEETS = 20
# Of a third learner who is alike with both: then it is more likely a mistake that several share.
ALIKE_WITH_BOTH = 0.02


@dataclass(frozen=True, slots=True)
class Sheet:
    """A learner's answers to a test, by question: one version of one family. answers: `RIGHT`, or
    the wrong answer as it was read. chances: of being right there, 0 to 1."""

    answers: Mapping[str, str]
    chances: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class SamePair:
    """Two learners whose answers are alike. of: questions both answered in the same version;
    matches: with the same answer; wrong: with the same wrong one, by question. omega, chance: of
    the direction that explains less, the chance corrected for all pairs; alone: not corrected.
    """

    one: int
    other: int
    of: int
    matches: int
    wrong: tuple[str, ...]
    omega: float
    chance: float
    alone: float


def alike_pairs(sheets: Mapping[int, Sheet]) -> list[SamePair]:
    """Return the pairs of learners worth asking about, the least likely by chance first. sheets: by
    learner.

    Pairs need ten questions in common. Of these, only pairs that share two wrong answers are worked
    out. That can only reduce false alarms, because the correction is for all pairs in both
    directions. Pairs that a third learner is alike with are left out: a misconception that several
    share looks like that. Nobody is compared where there are fewer than twenty.
    """
    if len(sheets) < FEWEST_SHEETS:
        return []
    given: dict[str, dict[int, str]] = {}
    for learner, sheet in sheets.items():
        for question, answer in sheet.answers.items():
            given.setdefault(question, {})[learner] = answer
    pairs = [
        pair
        for (one, other), wrong in _shared_wrong(given).items()
        if len(wrong) >= FEWEST_SAME_WRONG
        and (pair := _pair(one, other, sheets, given, tuple(sorted(wrong)))) is not None
    ]
    alike: dict[int, set[int]] = {}
    for pair in pairs:
        if pair.alone < ALIKE_WITH_BOTH:
            alike.setdefault(pair.one, set()).add(pair.other)
            alike.setdefault(pair.other, set()).add(pair.one)
    found = [
        pair
        for pair in pairs
        if pair.chance < SURE_OF_PAIRS
        and not alike.get(pair.one, set()) & alike.get(pair.other, set())
    ]
    return sorted(found, key=lambda pair: (pair.chance, pair.one, pair.other))


def _shared_wrong(given: Mapping[str, Mapping[int, str]]) -> dict[tuple[int, int], list[str]]:
    """By pair of learners the questions with the same wrong answer."""
    found: dict[tuple[int, int], list[str]] = {}
    for question, answers in given.items():
        alike: dict[str, list[int]] = {}
        for learner, answer in answers.items():
            if answer != RIGHT:
                alike.setdefault(answer, []).append(learner)
        for learners in alike.values():
            for pair in combinations(sorted(learners), 2):
                found.setdefault(pair, []).append(question)
    return found


def _pair(
    one: int,
    other: int,
    sheets: Mapping[int, Sheet],
    given: Mapping[str, Mapping[int, str]],
    wrong: tuple[str, ...],
) -> SamePair | None:
    common = sorted(sheets[one].answers.keys() & sheets[other].answers.keys())
    if len(common) < FEWEST_COMMON:
        return None
    matches = sum(sheets[one].answers[q] == sheets[other].answers[q] for q in common)
    pairs = len(sheets) * (len(sheets) - 1)
    best: tuple[float, float] | None = None
    for copier, source in ((one, other), (other, one)):
        chances = [
            answer_chance(
                sheets[copier].chances[q],
                sheets[source].answers[q],
                RIGHT,
                Counter(
                    answer
                    for learner, answer in given[q].items()
                    if learner not in (one, other) and answer != RIGHT
                ),
            )
            for q in common
        ]
        found = at_least(matches, chances), omega(matches, chances)
        best = found if best is None or found[0] < best[0] else best
    assert best is not None
    alone, index = best
    return SamePair(one, other, len(common), matches, wrong, index, for_pairs(alone, pairs), alone)
