"""What a test says about itself, in words for its tutor: questions to ask, never verdicts.

The limits are judgements; each line says its numbers.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atanh, sqrt

from vendaval_core.language import gettext

from ...words import counted
from .foreseen import Foreseen
from .questions import QuestionFigures
from .reliability import Reliability, other_side

LOOSE = 0.10
EASY, HARD = 0.95, 0.10
SURPRISE = 0.25
ERRORS = 2.0
EMPTY_SHARE = 0.2
AGAINST = -1.645
CLEAR, ROUGH = 0.8, 0.6


@dataclass(frozen=True, slots=True)
class Seen:
    """A question with what is known beside its figures. expected: share of the points from its
    curve and these learners' levels, None if unknown. empty, unreached: attempts that left it, and
    that left it and all after it. strong: the wrong answer that more of the upper third than of the
    lower gave, "" for none."""

    figures: QuestionFigures
    expected: float | None
    empty: int
    unreached: int
    attempts: int
    strong: str = ""

    @property
    def key_doubtful(self) -> bool:
        """Whether the strong do worse than the weak, and it runs against the rest by more than
        chance explains (Fisher's z 1921, one-sided 5%); never where nearly all agree."""
        low, _, high = self.figures.thirds
        if self.figures.rest is None or not HARD / 2 < self.figures.share < EASY:
            return False
        rest = max(self.figures.rest, -0.999)
        return high < low and atanh(rest) * sqrt(self.attempts - 3) < AGAINST


def question_words(seen: Seen) -> str:
    """Return what to ask about a question; "" if nothing stands out."""
    figures = seen.figures
    if seen.key_doubtful:
        if seen.strong:
            return gettext("More of the strong answered {answer}. Is the key right?").format(
                answer=seen.strong
            )
        return gettext("The strong did worse here than the weak. Is the key right?")
    if seen.unreached >= EMPTY_SHARE * seen.attempts:
        return gettext("{who} didn’t reach it.").format(
            who=counted(seen.unreached, "learner").capitalize()
        )
    if seen.empty >= EMPTY_SHARE * seen.attempts:
        return gettext("{who} left it empty. Was it clear?").format(
            who=counted(seen.empty, "learner").capitalize()
        )
    if figures.share <= HARD:
        return gettext("Nearly nobody got it right. Was it taught?")
    if seen.expected is not None:
        away = figures.share - seen.expected
        if abs(away) > max(SURPRISE, ERRORS * figures.error):
            return (
                gettext("Much harder than expected. Was it clear?")
                if away < 0
                else gettext("Much easier than expected. Was it known beforehand?")
            )
    if figures.share >= EASY:
        return gettext("Nearly nobody missed it.")
    if figures.rest is not None and figures.rest < LOOSE:
        return gettext("It hardly goes with the rest of the test. What else does it ask?")
    return ""


def near_pass_words(
    found: Reliability, mean: float, pass_mark: float, out_of: float, scale: int
) -> str:
    """Return what the error of a mark means for those at the pass mark. mean, pass_mark, out_of:
    points."""
    chance = other_side(pass_mark, pass_mark, mean, found)
    tenths = min(9, max(1, round(10 * chance)))
    mark = round(scale * pass_mark / out_of, 1)
    return gettext(
        "Of those who just got {mark:g}, about {tenths} in 10 would be below it in another test "
        "like this one."
    ).format(mark=mark, tenths=tenths)


def reliability_words(found: Reliability) -> str:
    """Return what the reliability means: how much of the difference between marks is real."""
    if found.alpha >= CLEAR:
        return gettext("Most of the difference between marks is real.")
    if found.alpha >= ROUGH:
        return gettext("Marks tell groups of learners apart, but single marks only roughly.")
    return gettext("Much of the difference between marks is chance: more questions would help.")


def forecast_words(found: Foreseen) -> list[str]:
    """Return what a test would bring, for whoever composes it."""
    lines = [
        gettext("Most results between {low:.0f} and {high:.0f}%, {mean:.0f}% on average.").format(
            low=found.low, high=found.high, mean=found.mean
        )
    ]
    if found.passing is not None:
        tenths = round(10 * found.passing)
        lines.append(
            gettext("Nearly everybody is likely to pass.")
            if tenths == 10
            else gettext("Hardly anybody is likely to pass.")
            if tenths == 0
            else gettext("About {tenths} in 10 are likely to pass.").format(tenths=tenths)
        )
    if found.reliability is not None:
        lines.append(
            gettext("It would tell learners apart well.")
            if found.reliability >= CLEAR
            else gettext("It would tell groups of learners apart, single marks only roughly.")
            if found.reliability >= ROUGH
            else gettext("Much of the difference between marks would be chance.")
        )
    if found.mean > 100 * EASY or found.mean < 100 * LOOSE:
        lines.append(
            gettext("Nearly all of it is too easy or too hard for this group to show much.")
        )
    return lines


def test_headline(doubtful: int, others: int) -> str:
    """Return one sentence on a test. doubtful: keys to look at. others: questions of which
    something else stands out."""
    if doubtful:
        keys = counted(doubtful, "key", "keys").capitalize()
        return gettext("{keys} to look at.").format(keys=keys)
    if others:
        return gettext("No key looks wrong; {others} worth a look.").format(
            others=counted(others, "question is", "questions are")
        )
    return gettext("Nothing stands out.")
