"""Signals in words: each a question to ask somebody, its evidence, and what else could explain it.

Never a verdict. A guardian reads the question alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from ..measure.pairs import SamePair
from ..measure.personfit import PersonFit
from ..measure.signals import Counted, Timed, fast_and_high, rapid_and_low, second_try_only
from ..words import counted

TERM_ANSWERS = 80
FEWEST_FITTED, MISFIT = 20, -3.0


class SignalKind(StrEnum):
    """What is asked about."""

    RAPID = "rapid"
    FAST = "fast"
    SECOND = "second"
    MISFIT = "misfit"
    SAME = "same"


@dataclass(frozen=True, slots=True)
class Asking:
    """Something to ask. evidence: in numbers. perhaps: what else could explain it."""

    kind: SignalKind
    question: str
    evidence: str
    perhaps: tuple[str, ...]


def ask_rapid(answers: Sequence[Timed]) -> Asking | None:
    """Too many answers came before the question can be read, and were no better than guesses."""
    found = rapid_and_low(answers)
    if found is None:
        return None
    right = sum(one.right for one in answers if one.taken < 0.10)
    return Asking(
        SignalKind.RAPID,
        "Some answers come before the question can be read. Was there no time, or no wish to think "
        "about them?",
        f"{found.count} of the latest {found.of} first answers took less than a tenth of the usual "
        f"time; {right} of these {found.count} were right, as many as guesses are.",
        ("a try to get through quickly to something else", "a device that sent twice"),
    )


def ask_fast(answers: Sequence[Timed]) -> Asking | None:
    """Nearly all right in far less time than such questions take."""
    found = fast_and_high(answers)
    if found is None:
        return None
    times = sorted(one.taken for one in answers)
    middle = 100 * times[len(times) // 2]
    return Asking(
        SignalKind.FAST,
        "Nearly everything is right, and very fast. How were these worked out?",
        f"{found.count} of the latest {found.of} first answers were right, half of them within "
        f"{middle:.0f} % of the usual time.",
        (
            "it was known well from elsewhere: harder work would tell",
            "questions were worked out on paper before they were opened",
        ),
    )


def ask_second(firsts: Counted, seconds: Counted) -> Asking | None:
    """Seldom right at the first try, and nearly always at the second."""
    found = second_try_only(firsts, seconds)
    if found is None:
        return None
    return Asking(
        SignalKind.SECOND,
        "The second try is nearly always right and the first seldom. What happens between them?",
        f"{firsts.count} of {firsts.of} were right at the first try, {found.count} of {found.of} "
        "misses at the second.",
        ("what is said to a miss is well understood", "first tries are sent to see the hint"),
    )


def ask_misfit(fit: PersonFit | None) -> Asking | None:
    """Answers that do not fit one level: easy ones missed, harder ones right. The bound is further
    out than where a topic's page asks the learner: a tutor is asked of many at once."""
    if fit is None or fit.answers < FEWEST_FITTED or fit.lz_star > MISFIT:
        return None
    return Asking(
        SignalKind.MISFIT,
        "Easy questions were missed while harder ones were right. Was something misread, or did "
        "somebody help?",
        f"Over the latest {counted(fit.answers, 'answer')} l_z* is −{abs(fit.lz_star):.1f}; under "
        f"−{abs(MISFIT):.1f} is chance for one of a hundred at the most.",
        ("a topic learnt between", "a way of asking that was not understood"),
    )


def ask_same(pair: SamePair, test: str) -> Asking:
    """Two with the same answers in the same versions of a test."""
    return Asking(
        SignalKind.SAME,
        f"In “{test}” two have the same answers, wrong ones among them. Was it worked on together?",
        f"{pair.matches} of {pair.of} answers are the same, {len(pair.wrong)} of them the same "
        f"wrong ones (ω = {pair.omega:.1f}). By chance some pair of the group has so many in "
        f"{max(0.1, 100 * pair.chance):.1f} of 100 tests.",
        ("they learnt it together, with the same mistake", "a mistake the lesson itself suggested"),
    )
