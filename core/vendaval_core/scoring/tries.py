"""Tries, penalties and what a question is worth.

Common practice, no published source: each miss takes a fixed part off what a part is worth.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from typing import Literal

from ..items.kinds.protocol import Key
from ..items.mark import PartMark, Verdict, as_it_stands
from ..items.versions import Version
from ..measure.response import category_of

Outcome = Literal["right", "partly", "wrong"]


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
    """Where a part stands: the canonical answers that counted, and the share of its points that
    each earned by itself, None while nobody has marked it. marked: whether a rule marks it."""

    answers: tuple[str, ...] = ()
    shares: tuple[Fraction | None, ...] = ()
    marked: bool = True

    @property
    def right(self) -> bool:
        """Whether an answer was wholly right, or needs no marking and was given."""
        return bool(self.answers) if not self.marked else Fraction(1) in self.shares

    @property
    def misses(self) -> int:
        """Answers that were not wholly right."""
        return sum(share != 1 for share in self.shares) if self.marked else 0

    @property
    def best(self) -> Fraction:
        """The greatest share that an answer earned by itself."""
        return max((share or Fraction(0) for share in self.shares), default=Fraction(0))

    def closed(self, rules: TryRules) -> bool:
        """Whether it is right or has no tries left."""
        return self.right or len(self.answers) >= rules.tries

    def earned(self, rules: TryRules) -> Fraction:
        """Best of its answers, each less what the misses before it take off."""
        worths = ((share or 0) * rules.worth(i) for i, share in enumerate(self.shares))
        return max(worths, default=Fraction(0))

    @property
    def waits(self) -> bool:
        """Whether its first answer has not been marked yet, by a rule or by a person."""
        return not self.shares or self.shares[0] is None

    def with_answer(self, canonical: str, share: Fraction | None) -> PartState:
        """The state after another answer."""
        return PartState((*self.answers, canonical), (*self.shares, share), self.marked)


@dataclass(frozen=True, slots=True)
class QuestionState:
    """Where a question stands, by part id, in the version's order."""

    parts: dict[str, PartState]

    @classmethod
    def fresh(cls, keys: Sequence[Key]) -> QuestionState:
        """A question nobody has tried."""
        return cls({key.id: PartState(marked=key.units > 0) for key in keys})

    @property
    def scored(self) -> list[PartState]:
        """The parts that earn points: those that a rule marks, or all where it marks none."""
        return [p for p in self.parts.values() if p.marked] or list(self.parts.values())

    @property
    def waits(self) -> bool:
        """Whether its points depend on marks that are still to come."""
        return any(part.waits for part in self.scored)

    @property
    def answer_waits(self) -> bool:
        """Whether an answer that was given is still to be marked."""
        return any(part.answers and part.waits for part in self.scored)

    @property
    def outcome(self) -> Outcome | None:
        """What came of it by its best answers; None where nothing was answered, or what was waits
        for marks."""
        tried = [part for part in self.scored if part.answers]
        if not tried or self.answer_waits:
            return None
        if all(part.right for part in self.scored):
            return "right"
        return "partly" if any(part.best > 0 for part in tried) else "wrong"

    @property
    def first_tries_right(self) -> bool:
        """Whether every scored part was wholly right at its first try."""
        return all(part.shares and part.shares[0] == 1 for part in self.scored)

    @property
    def first_tries_done(self) -> bool:
        """Whether every part has had its first try."""
        return all(part.answers for part in self.parts.values())

    def closed(self, rules: TryRules) -> bool:
        """Whether nothing is left to try."""
        return all(part.closed(rules) for part in self.parts.values())

    def score(self, rules: TryRules) -> Fraction:
        """Points so far, as a share of the question's points."""
        return sum((p.earned(rules) for p in self.scored), Fraction(0)) / len(self.scored)

    def worth_now(self, rules: TryRules) -> Fraction:
        """Share that can still be reached: earned plus what open parts would earn now."""
        reachable = [
            p.earned(rules) if p.closed(rules) else max(p.earned(rules), rules.worth(p.misses))
            for p in self.scored
        ]
        return sum(reachable, Fraction(0)) / len(self.scored)

    def tries_left(self, rules: TryRules) -> int:
        """Tries left on the open part that has most of them, 0 when closed."""
        still = [rules.tries - len(p.answers) for p in self.parts.values() if not p.closed(rules)]
        return max(still, default=0)


class PartResult(StrEnum):
    """What became of one part in a submission."""

    RIGHT = "right"
    PARTLY = "partly"
    WRONG = "wrong"
    NOTED = "noted"
    """Kept and not marked."""
    UNREADABLE = "unreadable"
    INCOMPLETE = "incomplete"
    UNCHANGED = "unchanged"
    BLANK = "blank"
    CLOSED = "closed"
    HELD = "held"
    """Read, but not counted while other parts are missing."""


MISSING = frozenset({PartResult.BLANK, PartResult.INCOMPLETE, PartResult.UNREADABLE})
USED_A_TRY = frozenset({PartResult.RIGHT, PartResult.PARTLY, PartResult.WRONG, PartResult.NOTED})


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

    def used(self, part: str) -> bool:
        """Whether a part used a try."""
        return self.counted and self.results[part] in USED_A_TRY

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
    final: bool = False,
) -> Submission:
    """Mark a submission against the state of its question.

    A try is used only on open parts whose readable answer differs from every earlier one. Parts
    that are missing or empty are blank; ids that the version doesn't have are ignored. whole:
    nothing counts, and no feedback is given, until every open part has a readable answer. final:
    nothing more will be sent, so what is incomplete is marked as it stands, and what can't be read
    waits for a person.
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
        mark = as_it_stands(key.mark(response)) if final else key.mark(response)
        marks[key.id] = mark
        if final and mark.verdict is Verdict.UNREADABLE:
            marks[key.id] = replace(mark, verdict=Verdict.NOTED, canonical=response.strip())
            results[key.id] = PartResult.NOTED
            parts[key.id] = before.with_answer(response.strip(), None)
            continue
        if mark.verdict in {Verdict.UNREADABLE, Verdict.INCOMPLETE}:
            results[key.id] = PartResult(mark.verdict.value)
        elif mark.canonical in before.answers:
            results[key.id] = PartResult.UNCHANGED
        else:
            results[key.id] = PartResult(mark.verdict.value)
            share = mark.share if before.marked else None
            parts[key.id] = before.with_answer(mark.canonical, share)
    if whole and set(results.values()) & MISSING:
        results = {p: r if r in MISSING else PartResult.HELD for p, r in results.items()}
        return Submission(results, marks, state, state)
    return Submission(results, marks, state, QuestionState(parts))


def first_try_share(state: QuestionState, units: Mapping[str, int]) -> Fraction:
    """Return the share of units that were right at their first try, 0 to 1.

    units: number of units by part id. A part that only a person marks counts as one unit if no
    other part is marked.
    """
    alone = not any(part.marked for part in state.parts.values())
    total, right = 0, Fraction(0)
    for part, p in state.parts.items():
        if p.marked or alone:
            weight = units[part] or 1
            total += weight
            right += weight * (p.shares[0] or 0) if p.shares else 0
    return right / total


def first_try_category(state: QuestionState, version: Version, categories: int) -> int:
    """Return the outcome category of the first tries, 0 to `categories` - 1, for a response
    curve."""
    return category_of(float(_first_share(state, version)), categories)


def first_tries_right(state: QuestionState, version: Version) -> bool:
    """Return whether the first tries had full points. The best category is wider: four of five
    right are in the best of four categories, and still a miss."""
    return _first_share(state, version) == 1


def _first_share(state: QuestionState, version: Version) -> Fraction:
    return first_try_share(state, {key.id: key.units for key in version.parts})
