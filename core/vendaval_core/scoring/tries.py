"""Tries, penalties and what a question is worth.

Common practice, no published source: each miss takes a fixed part off what a part is worth.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from ..items.versions import Version
from ..measure.response import category_count, category_of
from .marking import PartMark, Verdict, mark_part


@dataclass(frozen=True, slots=True)
class TryRules:
    """How often a part may be tried and what each miss takes off (0 to 1)."""

    tries: int = 3
    penalty: Fraction = Fraction(1, 3)

    def worth(self, misses: int) -> Fraction:
        """What a right answer earns after a number of misses, 0 to 1."""
        if misses >= self.tries:
            return Fraction(0)
        return max(Fraction(0), 1 - misses * self.penalty)


ONE_TRY = TryRules(tries=1, penalty=Fraction(1))
PRACTICE_TRIES = TryRules()


@dataclass(frozen=True, slots=True)
class PartState:
    """Where a part stands: the canonical answers that counted, and whether one was right."""

    answers: tuple[str, ...] = ()
    right: bool = False

    @property
    def misses(self) -> int:
        """Answers that were wrong."""
        return len(self.answers) - self.right

    def closed(self, rules: TryRules) -> bool:
        """Whether it is right or has no tries left."""
        return self.right or len(self.answers) >= rules.tries


@dataclass(frozen=True, slots=True)
class QuestionState:
    """Where a question stands, by part id, in the version's order."""

    parts: dict[str, PartState]

    @classmethod
    def fresh(cls, part_ids: Sequence[str]) -> QuestionState:
        """A question nobody has tried."""
        return cls({part: PartState() for part in part_ids})

    @property
    def first_tries_done(self) -> bool:
        """Whether every part has had its first try."""
        return all(part.answers for part in self.parts.values())

    def closed(self, rules: TryRules) -> bool:
        """Whether nothing is left to try."""
        return all(part.closed(rules) for part in self.parts.values())

    def score(self, rules: TryRules) -> Fraction:
        """Points so far, as a share of the question's points."""
        earned = [rules.worth(p.misses) for p in self.parts.values() if p.right]
        return sum(earned, Fraction(0)) / len(self.parts)

    def worth_now(self, rules: TryRules) -> Fraction:
        """Share that can still be reached: earned plus what open parts would earn now."""
        reachable = [rules.worth(p.misses) for p in self.parts.values()]
        return sum(reachable, Fraction(0)) / len(self.parts)

    def tries_left(self, rules: TryRules) -> int:
        """Tries left on the open part that has most of them, 0 when closed."""
        still = [rules.tries - len(p.answers) for p in self.parts.values() if not p.closed(rules)]
        return max(still, default=0)


class PartResult(StrEnum):
    """What became of one part in a submission."""

    RIGHT = "right"
    WRONG = "wrong"
    UNREADABLE = "unreadable"
    UNCHANGED = "unchanged"
    BLANK = "blank"
    CLOSED = "closed"
    HELD = "held"
    """Read, but not counted while other parts are missing."""


@dataclass(frozen=True, slots=True)
class Submission:
    """Outcome of one submission. counted: whether any part used a try."""

    results: dict[str, PartResult]
    marks: dict[str, PartMark]
    before: QuestionState
    after: QuestionState

    @property
    def counted(self) -> bool:
        """Whether any part used a try; if not, nothing changed."""
        return self.after != self.before

    @property
    def completes_first_tries(self) -> bool:
        """Whether this submission gave the last part its first try."""
        return self.after.first_tries_done and not self.before.first_tries_done


def submit(
    version: Version,
    state: QuestionState,
    responses: Mapping[str, str],
    rules: TryRules,
    *,
    whole: bool = False,
) -> Submission:
    """Mark a submission against a question's state.

    A try is used only on open parts whose readable answer differs from every one before it.
    Parts left out or empty are blank; ids the version does not have are ignored. whole: nothing
    counts, and nothing is told, until every open part has a readable answer.
    """
    results: dict[str, PartResult] = {}
    marks: dict[str, PartMark] = {}
    parts = dict(state.parts)
    for key in version.parts:
        before = parts[key.id]
        response = responses.get(key.id, "")
        if before.closed(rules):
            results[key.id] = PartResult.CLOSED
            continue
        if not response.strip():
            results[key.id] = PartResult.BLANK
            continue
        mark = mark_part(key, response)
        marks[key.id] = mark
        if mark.verdict is Verdict.UNREADABLE:
            results[key.id] = PartResult.UNREADABLE
        elif mark.canonical in before.answers:
            results[key.id] = PartResult.UNCHANGED
        else:
            results[key.id] = PartResult(mark.verdict.value)
            right = mark.verdict is Verdict.RIGHT
            parts[key.id] = PartState((*before.answers, mark.canonical), right)
    if whole and set(results.values()) & {PartResult.BLANK, PartResult.UNREADABLE}:
        told = {PartResult.BLANK, PartResult.UNREADABLE}
        results = {p: r if r in told else PartResult.HELD for p, r in results.items()}
        return Submission(results, marks, state, state)
    return Submission(results, marks, state, QuestionState(parts))


def first_try_share(state: QuestionState) -> Fraction:
    """Share of the parts that were right at their first try, 0 to 1."""
    right = sum(part.right and len(part.answers) == 1 for part in state.parts.values())
    return Fraction(right, len(state.parts))


def first_try_category(state: QuestionState) -> int:
    """Outcome category of the first tries for the question's response curve."""
    return category_of(float(first_try_share(state)), category_count(len(state.parts)))
