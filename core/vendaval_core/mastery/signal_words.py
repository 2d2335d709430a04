"""Signals in words: each a question to ask somebody, its evidence, and what else could explain it.

Never a verdict. A guardian reads the question alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from vendaval_core.language import gettext

from ..measure.pairs import SamePair
from ..measure.personfit import PersonFit, Slack
from ..measure.signals import (
    Counted,
    Timed,
    fast_and_high,
    rapid_and_low,
    second_try_only,
    usual_at_second,
)
from ..words import counted

# First answers of a learner in a term, which is what one in a hundred is meant of.
TERM_ANSWERS = 80
FEWEST_FITTED, MISFIT = 20, -3.0
# Honest people slip in one of ten, and guess right in some of what they do not know.
SLACK = Slack(slips=0.1, guesses=0.15)


class SignalKind(StrEnum):
    """What is asked about."""

    RAPID = "rapid"
    FAST = "fast"
    SECOND = "second"
    MISFIT = "misfit"
    SAME = "same"


@dataclass(frozen=True, slots=True)
class Asking:
    """Something to ask. evidence: in plain numbers. perhaps: what else could explain it.
    worked_out: the statistic behind it, for whoever wants to see it."""

    kind: SignalKind
    question: str
    evidence: str
    perhaps: tuple[str, ...]
    worked_out: str = ""


def ask_rapid(answers: Sequence[Timed]) -> Asking | None:
    """Return a question if too many answers came before the question can be read and were right no
    more often than guesses; otherwise None."""
    found = rapid_and_low(answers)
    if found is None:
        return None
    right = sum(one.right for one in answers if one.taken < 0.10)
    return Asking(
        SignalKind.RAPID,
        (
            gettext(
                "Some answers come faster than the question can be read. Was there too little "
                "time, or too little interest?"
            )
        ),
        (
            gettext(
                "{count} of the latest {of} first answers took less than a tenth of the usual "
                "time. Right among these: {right}, about as many as by guessing."
            ).format(count=found.count, of=found.of, right=right)
        ),
        (
            gettext("they wanted to get to something else quickly"),
            gettext("a device sent the answer twice"),
        ),
    )


def ask_fast(answers: Sequence[Timed]) -> Asking | None:
    """Return a question if nearly all answers were right in far less than the usual time; otherwise
    None."""
    found = fast_and_high(answers)
    if found is None:
        return None
    times = sorted(one.taken for one in answers)
    middle = 100 * times[len(times) // 2]
    return Asking(
        SignalKind.FAST,
        gettext("Nearly everything is right, and very fast. How did they work these out?"),
        (
            gettext(
                "{count} of the latest {of} first answers were right, half of them within "
                "{middle:.0f}% of the usual time."
            ).format(count=found.count, of=found.of, middle=middle)
        ),
        (
            gettext(
                "they knew it already: able people can be this quick, and harder work shows it"
            ),
            gettext("they worked the questions out on paper before opening them"),
        ),
    )


def ask_second(firsts: Counted, seconds: Counted, others: Counted) -> Asking | None:
    """Return a question if answers were seldom right at the first try and nearly always at the
    second, more often than those of others; otherwise None."""
    found = second_try_only(firsts, seconds, usual_at_second(others))
    if found is None:
        return None
    return Asking(
        SignalKind.SECOND,
        (
            gettext(
                "The second try is nearly always right, the first one rarely. What happens in "
                "between?"
            )
        ),
        (
            gettext(
                "{count} of {of} were right first time, {count2} of {of2} misses at the second try."
            ).format(count=firsts.count, of=firsts.of, count2=found.count, of2=found.of)
        ),
        (
            gettext("they understand the hint or the words on a wrong answer well"),
            gettext("they send a first try only to see the hint"),
        ),
    )


def ask_misfit(fit: PersonFit | None) -> Asking | None:
    """Return a question if the answers do not fit one level (easy ones missed, harder ones right);
    otherwise None. The threshold is stricter than on a learner's own topic page, because a tutor is
    asked about many learners at once."""
    if fit is None or fit.answers < FEWEST_FITTED or fit.lz_star > MISFIT:
        return None
    return Asking(
        SignalKind.MISFIT,
        (
            gettext(
                "Easy questions were wrong while harder ones were right. Did they misread "
                "something, or did somebody help?"
            )
        ),
        (
            gettext(
                "Seen over the latest {answers}. Fewer than 1 learner in 100 answers like this "
                "by chance."
            ).format(answers=counted(fit.answers, "answer"))
        ),
        (
            gettext("they learnt the topic in between"),
            gettext("they didn’t understand how the question was asked"),
            gettext("they guess or slip more often than most, which looks a little like this"),
        ),
        gettext("Person fit l_z* = −{lz_star:.1f}; the limit is −{misfit:.1f}.").format(
            lz_star=abs(fit.lz_star), misfit=abs(MISFIT)
        ),
    )


def ask_same(pair: SamePair, test: str) -> Asking:
    """Return a question about two learners with the same answers in the same versions of a test."""
    return Asking(
        SignalKind.SAME,
        (
            gettext(
                "Two learners gave the same answers in “{test}”, wrong ones too. Did they "
                "work together?"
            ).format(test=test)
        ),
        gettext(
            "{matches} of {of} answers are the same, {count} of them the same wrong ones. By "
            "chance, a group has such a pair in about 1 of {tests:,} tests."
        ).format(
            matches=pair.matches,
            of=pair.of,
            count=len(pair.wrong),
            tests=min(1000, round(1 / max(pair.chance, 1e-9))),
        ),
        (
            gettext("they learnt it together, with the same mistake"),
            gettext("the lesson itself suggested the mistake, and few others made it"),
        ),
        gettext("Answer copying index ω = {omega:.1f}.").format(omega=pair.omega),
    )
