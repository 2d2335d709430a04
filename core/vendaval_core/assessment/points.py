"""Points of a question, a section, a test, and the attempt that counts: exact fractions.

Common practice, no published source, unless said.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from fractions import Fraction

from vendaval_core.language import gettext

from ..items.versions import Version
from ..scoring.tries import QuestionState, TryRules
from .rules import Band, LateWork, Rules, ScoreKept

DAY = timedelta(days=1)


class Adjusted(StrEnum):
    """What became of a question after the test: dropped, or full marks for everybody."""

    DROPPED = "dropped"
    FULL = "full"


@dataclass(frozen=True, slots=True)
class QuestionPoints:
    """How the points of a question came about.

    of: points in all. share: earned by answers after what misses took off, 0 to 1. off: points
    taken off for wrong choices. reached: points, None while it waits for marks.
    """

    of: Fraction
    section: int
    share: Fraction | None
    off: Fraction = Fraction(0)
    empty: bool = False
    adjusted: Adjusted | None = None

    @property
    def reached(self) -> Fraction | None:
        """Points, never below minus what the question is worth."""
        if self.adjusted is Adjusted.FULL:
            return self.of
        if self.share is None:
            return None
        return max(-self.of, self.share * self.of - self.off)


def try_rules(rules: Rules) -> TryRules:
    """Return the tries and penalties of a test's questions."""
    return TryRules(rules.tries, rules.off_per_miss)


def wrong_choices(version: Version, responses: dict[str, str]) -> Fraction:
    """Return the share of a question that was answered wrong, 0 to 1. Empty answers never count as
    wrong."""
    given = ((key, responses.get(key.id, "")) for key in version.parts)
    wrong = sum((key.wrong_choices(said) for key, said in given if said.strip()), Fraction(0))
    return wrong / len(version.parts)


def question_points(
    of: Fraction,
    section: int,
    state: QuestionState,
    rules: Rules,
    wrong: Fraction = Fraction(0),
    adjusted: Adjusted | None = None,
    *,
    on_paper: bool = False,
) -> QuestionPoints:
    """Return the points of a question. Each part has the same share of `of`, including parts that
    only a person can mark.

    wrong: see `wrong_choices`. on_paper: the answer is on a page and waits for a person, unless
    everything that was typed is right.
    """
    parts, tries = list(state.parts.values()), try_rules(rules)
    empty = not any(part.answers for part in parts)
    waits = any(part.answers and part.waits for part in parts)
    earned = sum((part.earned(tries) for part in parts), Fraction(0))
    waits = waits or (on_paper and earned < len(parts))
    share = None if waits else earned / len(parts)
    off = Fraction(0) if empty else rules.off_wrong * wrong * of
    return QuestionPoints(of, section, share, off, empty and not on_paper, adjusted)


@dataclass(frozen=True, slots=True)
class Total:
    """Points of a test. so far: reached of what is marked. of: in all. late_off: part of the
    points that lateness takes off, 0 to 1."""

    reached: Fraction
    marked: Fraction
    of: Fraction
    waiting: int
    late_off: Fraction = Fraction(0)

    @property
    def complete(self) -> bool:
        """Whether nothing waits for marks."""
        return self.waiting == 0

    @property
    def share(self) -> Fraction:
        """Of the points in all, 0 to 1."""
        return self.reached / self.of if self.of else Fraction(0)

    @property
    def per_cent(self) -> Fraction:
        """0 to 100."""
        return 100 * self.share

    def scaled(self, most: int) -> Fraction:
        """On a course's scale, such as 20."""
        return self.share * most


def total_of(questions: Sequence[QuestionPoints], late_off: Fraction = Fraction(0)) -> Total:
    """Add up a test. A dropped question reduces the points available. No section falls below 0."""
    kept = [one for one in questions if one.adjusted is not Adjusted.DROPPED]
    by_section: dict[int, Fraction] = {}
    for one in kept:
        by_section[one.section] = by_section.get(one.section, Fraction(0)) + (one.reached or 0)
    reached = sum((max(Fraction(0), points) for points in by_section.values()), Fraction(0))
    return Total(
        reached=reached * (1 - late_off),
        marked=sum((one.of for one in kept if one.reached is not None), Fraction(0)),
        of=sum((one.of for one in kept), Fraction(0)),
        waiting=sum(one.reached is None for one in kept),
        late_off=late_off,
    )


def late_off(rules: Rules, due: datetime | None, handed_in: datetime) -> Fraction:
    """Return the share of the points, 0 to 1, that late work loses: a part for each started day
    after the due time."""
    if rules.late is not LateWork.LESS or due is None or handed_in <= due:
        return Fraction(0)
    days = -(-(handed_in - due) // DAY)
    return min(Fraction(1), days * rules.late_off)


@dataclass(frozen=True, slots=True)
class Kept:
    """The score that counts. attempt: number of the one it comes from, None for the mean."""

    share: Fraction
    attempt: int | None
    says: str


def kept_score(rule: ScoreKept, shares: Sequence[Fraction]) -> Kept | None:
    """Return which marked attempt counts by the test's rule, or None before any is marked. shares:
    0 to 1, in the order of the attempts."""
    if not shares:
        return None
    count = len(shares)
    match rule:
        case ScoreKept.FIRST:
            return Kept(shares[0], 1, _one_of(count, gettext("the first counts")))
        case ScoreKept.LATEST:
            return Kept(
                shares[-1],
                count,
                _one_of(count, gettext("the latest counts: the {th}").format(th=_th(count))),
            )
        case ScoreKept.BEST:
            best = max(range(count), key=lambda i: shares[i])
            return Kept(
                shares[best],
                best + 1,
                _one_of(count, gettext("the best counts: the {th}").format(th=_th(best + 1))),
            )
        case ScoreKept.MEAN:
            mean = sum(shares, Fraction(0)) / count
            return Kept(mean, None, _one_of(count, gettext("the average counts")))


def _one_of(count: int, says: str) -> str:
    return (
        gettext("the only attempt")
        if count == 1
        else gettext("of {count} attempts {says}").format(count=count, says=says)
    )


def _th(number: int) -> str:
    words = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth")
    return (
        words[number - 1]
        if number <= len(words)
        else gettext("the attempt numbered {number}").format(number=number)
    )


def band_of(bands: Sequence[Band], per_cent: Fraction) -> str:
    """Return the name of the band for a result in per cent."""
    return (
        [band.name for band in bands if band.least <= per_cent][-1]
        if per_cent >= 0
        else bands[0].name
    )


def pays_from(off_wrong: Fraction) -> Fraction:
    """Return the chance p of being right from which an answer pays: where p = off · (1 − p)."""
    return off_wrong / (1 + off_wrong)


def shown(points: Fraction) -> str:
    """Return points as text with at most two decimals and no trailing zeros. Half a hundredth
    rounds up."""
    hundredths = (abs(points) * 200 + 1) // 2
    whole, rest = divmod(hundredths, 100)
    text = str(whole) if rest == 0 else f"{whole}.{rest:02d}".rstrip("0")
    return f"−{text}" if points < 0 and hundredths else text
