"""Which question to practise next, and when a topic is covered and its target met."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from hashlib import sha256

from vendaval_core.language import gettext

from ..errors import NothingToAsk

# Practice teaches most when about three in four come right; below 0.6 it discourages, above
# 0.9 it only repeats (common practice, no published source).
LOW_CHANCE, BEST_CHANCE, HIGH_CHANCE = 0.6, 0.75, 0.9
# Found by trying rules on simulated learners: looked at once, even 0.8 was true in 83 of 100
# calls; kept up for answers of weight three, 0.76 is true in 93 (docs/measurement.md, "Weeks of
# learning").
LIKELY_ENOUGH = 0.76
STEADY_ENOUGH = 3.0
# Below an even chance the page stops saying "met" without a word of doubt.
TO_BE_CHECKED = 0.5
# Once right may be remembered numbers; right with other numbers is the idea.
RIGHT_VERSIONS = 2
# One miss is a slip, two in a row are a sign (a judgement).
MISSES_BEFORE_EASIER = 2
MISSES_BEFORE_STUDY = 2


@dataclass(frozen=True, slots=True)
class PracticeFamily:
    """What the choice needs to know of one family.

    right_versions: versions right at the first try with weight above 0. versions: how many the
    family has. last_seen: order number of its last presentation, -1 when never.
    success: expected share of the points, 0 to 1.
    """

    key: str
    essential: bool
    versions: int
    right_versions: int
    last_seen: int
    success: float

    @property
    def wanted(self) -> int:
        """Right versions that cover this family: two, or one when it has a single version."""
        return min(RIGHT_VERSIONS, self.versions)

    @property
    def covered(self) -> bool:
        """Whether this family needs no more for coverage."""
        return not self.essential or self.right_versions >= self.wanted


@dataclass(frozen=True, slots=True)
class Coverage:
    """Essential families covered, of all; right answers still wanted at the least."""

    covered: int
    essential: int
    answers_left: int

    @property
    def done(self) -> bool:
        """Whether every essential family is covered."""
        return self.covered == self.essential


def coverage(families: Sequence[PracticeFamily]) -> Coverage:
    """Return the coverage of a topic from its families."""
    essential = [family for family in families if family.essential]
    return Coverage(
        covered=sum(family.covered for family in essential),
        essential=len(essential),
        answers_left=sum(max(0, f.wanted - f.right_versions) for f in essential),
    )


def steady_after(
    steady: float, chance: float, weight: float, likely: float = LIKELY_ENOUGH
) -> float:
    """Return the weight of consecutive answers that left the topic likely enough to be at its
    target, after one more answer. A repeat within a sitting says half as much, so it counts half.

    chance: of being at the target after the answer, 0 to 1. likely: the chance that is enough. An
    answer of weight 0 changes nothing.
    """
    if weight <= 0:
        return steady
    return steady + weight if chance >= likely else 0.0


def target_met(steady: float, covered: Coverage) -> bool:
    """Return whether the target is met: every idea covered, and likely enough to be at the target
    after each of the last answers, with a total weight of three. One look would mislead: see
    docs/measurement.md, "Met"."""
    return steady >= STEADY_ENOUGH and covered.done


def to_be_checked(chance: float) -> bool:
    """Return whether a target that was met has become doubtful enough to check. chance: of being at
    it, 0 to 1."""
    return chance < TO_BE_CHECKED


@dataclass(frozen=True, slots=True)
class PracticeChoice:
    """Family to practise and why: its expected success and whether coverage asked for it."""

    family: str
    success: float
    for_coverage: bool
    easier: bool


def choose_practice(
    families: Sequence[PracticeFamily], misses_in_a_row: int, last_family: str | None
) -> PracticeChoice:
    """Choose the family to practise next.

    Families still needed for coverage come first. Among them: a success chance from 0.6 to 0.9,
    nearest 0.75 (Klinkenberg, Straatemeier and van der Maas 2011) to a tenth, then the least
    recently seen. After two misses in a row, one of the easier half. Not the same family twice in a
    row if there is another. Raises NothingToAsk for an empty topic.
    """
    if not families:
        raise NothingToAsk(gettext("this topic has no questions yet"))
    others = [family for family in families if family.key != last_family] or list(families)
    needed = [family for family in others if not family.covered]
    candidates = needed or others
    easier = misses_in_a_row >= MISSES_BEFORE_EASIER and len(others) > 1
    if easier:
        pool = candidates if len(candidates) > 1 else others
        by_ease = sorted(pool, key=lambda family: -family.success)
        candidates = by_ease[: (len(by_ease) + 1) // 2]

    def order(family: PracticeFamily) -> tuple[bool, int, int, float]:
        in_range = LOW_CHANCE <= family.success <= HIGH_CHANCE
        away = abs(family.success - BEST_CHANCE)
        return not in_range, round(away * 10), family.last_seen, away

    chosen = min(candidates, key=order)
    return PracticeChoice(chosen.key, chosen.success, not chosen.covered, easier)


def misses_on_idea(misses: Mapping[str, int], family: str, right: bool) -> dict[str, int]:
    """Return the misses in a row by family, after one more question. right: at the first try,
    without help.

    Only a right answer, or reading about the idea, resets a family's count.
    """
    return {**misses, family: 0 if right else misses.get(family, 0) + 1}


def needs_study(misses: int) -> bool:
    """Return whether an idea was missed so often in a row that its study section comes first."""
    return misses >= MISSES_BEFORE_STUDY


def next_seed(
    versions: int, seen: Mapping[int, int], salt: str, left_out: Collection[int] = ()
) -> int:
    """Return the seed of the next version, 1 to `versions`: unseen ones first, then the least
    recently seen.

    seen: order number of the last presentation, by seed. salt: a secret of the learner and the
    family; it gives each an order of their own that nobody can work out. left_out: seeds that may
    not be shown now. Raises NothingToAsk if that leaves none.
    """

    def place(seed: int) -> bytes:
        return sha256(f"{salt}:{seed}".encode()).digest()

    free = [seed for seed in range(1, versions + 1) if seed not in left_out]
    if not free:
        raise NothingToAsk(gettext("every version is left out"))
    return min(free, key=lambda seed: (seen.get(seed, -1), place(seed)))
