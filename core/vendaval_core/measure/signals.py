"""Signals: each a question that is worth asking somebody, with its evidence and never a verdict.

Bounds are set so that at most one honest learner in a hundred is asked about in a term; see
`simulate/signals.py` and docs/measurement.md for what comes of them.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log, sqrt

import numpy as np
from scipy.special import bdtrc

from .grid import Array

RAPID = 0.10
EFFORT = 0.90
FEWEST = 20
FEWEST_FAST = 15
FEWEST_MISSES = 8
# A third of the usual time, which able and quick people need too.
QUICK = 1 / 3
PACE_ERRORS = 2.0
HIGH = 0.90
GUESSED = 0.05
SURE = 0.005
# Of a whole group at once, so about one in two hundred for each of twenty learners.
SURE_OF_PAIRS = 0.10
SECOND_RIGHT = 0.60
LEANING = 10


@dataclass(frozen=True, slots=True)
class Timed:
    """A first answer. taken: seconds by what such questions take on the whole, above 0. guess:
    chance of being right without reading, 0 for an answer that is typed."""

    taken: float
    right: bool
    guess: float = 0.0


@dataclass(frozen=True, slots=True)
class Counted:
    """So many of so many."""

    count: int
    of: int

    @property
    def share(self) -> float:
        """0 to 1; 0 of nothing."""
        return self.count / self.of if self.of else 0.0


def rapid_and_low(answers: Sequence[Timed]) -> Counted | None:
    """Return the answers that came before the question can be read, if they are many and right no
    more often than guesses; otherwise None.

    An answer is rapid below a tenth of the mean time (NT10: Wise and Ma 2012). Effort is the share
    of answers that are not rapid; below 0.90 it is too low (Wise and Kong 2005).
    """
    rapid = [one for one in answers if one.taken < RAPID]
    found = Counted(len(rapid), len(answers))
    if found.of < FEWEST or 1 - found.share >= EFFORT:
        return None
    guess = float(np.mean([one.guess for one in rapid]))
    right = sum(one.right for one in rapid)
    better = float(bdtrc(right - 1, found.count, max(guess, 0.02)))
    return found if better > GUESSED else None


def fast_and_high(answers: Sequence[Timed]) -> Counted | None:
    """Return the answers if nearly all are right in much less time than they need: clearly (by two
    standard errors) below a third of it, on a logarithmic scale. The third is a judgement: able
    people are quick, and most who are asked to show it can."""
    right = Counted(sum(one.right for one in answers), len(answers))
    if right.of < FEWEST_FAST or right.share < HIGH:
        return None
    logs = np.array([log(one.taken) for one in answers])
    error = float(logs.std(ddof=1)) / sqrt(len(logs))
    return right if float(logs.mean()) + PACE_ERRORS * error < log(QUICK) else None


def second_try_only(
    firsts: Counted, seconds: Counted, usual: float = SECOND_RIGHT
) -> Counted | None:
    """Return the second tries if answers are again and again right at the second try and seldom at
    the first.

    firsts: right at the first try, of all; seconds: right at the second, of those missed. usual:
    chance, 0 to 1, that others in the group are right at the second try: good hints make that high
    for everybody. Compared with three in five at the least (a judgement).
    """
    if seconds.of < FEWEST_MISSES or firsts.share > 0.4 or seconds.share < HIGH:
        return None
    by_chance = float(bdtrc(seconds.count - 1, seconds.of, max(SECOND_RIGHT, usual)))
    return seconds if by_chance < SURE else None


def usual_at_second(others: Counted) -> float:
    """Return the chance, 0 to 1, that others are right at the second try, leaning on three in five
    while there are few."""
    return (others.count + LEANING * SECOND_RIGHT) / (others.of + LEANING)


def answer_chance(right: float, answer: str, key: str, wrong: Mapping[str, int]) -> float:
    """Return the chance that somebody gives an answer to a question, 0 to 1.

    right: their chance of being right. wrong: how often others gave each wrong answer. A wrong
    answer gets its share of the rest, smoothed by one for each kind and one for any other.
    """
    if answer == key:
        return right
    total = sum(wrong.values()) + len(wrong) + 1
    return (1 - right) * (wrong.get(answer, 0) + 1) / total


def omega(matches: int, chances: Sequence[float]) -> float:
    """Return ω, the standardised number of answers that match another learner's: Wollack (1997), A
    nominal response model approach for detecting answer copying, Applied Psychological Measurement
    21, 307-320. chances: that each answer is the other's, 0 to 1."""
    expected = sum(chances)
    spread = sqrt(sum(one * (1 - one) for one in chances))
    return (matches - expected) / spread if spread else 0.0


def at_least(matches: int, chances: Sequence[float]) -> float:
    """Return the exact chance, 0 to 1, of `matches` or more matching answers (Poisson binomial
    distribution). ω is a normal approximation, which claims too much for few questions."""
    spread: Array = np.ones(1)
    for chance in chances:
        spread = np.convolve(spread, [1 - chance, chance])
    return float(min(1.0, spread[matches:].sum())) if matches < len(spread) else 0.0


def for_pairs(chance: float, pairs: int) -> float:
    """Return a chance corrected for the number of pairs that were compared (Bonferroni). Asked
    about below `SURE_OF_PAIRS`."""
    return min(1.0, chance * pairs)
