"""How often signals ask about honest learners, and how often about those they are meant for.

Honest are not only those like the model: quick and able ones, who slip, who guess, who live by
good hints, groups with one tempting wrong answer, and groups that share a misconception.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..mastery.signal_words import SLACK, ask_misfit
from ..measure.grid import Array
from ..measure.pairs import RIGHT, Sheet, alike_pairs
from ..measure.personfit import Answered, fit_at_mode
from ..measure.response import ResponseCurve
from ..measure.signals import (
    FEWEST_MISSES,
    Counted,
    Timed,
    fast_and_high,
    rapid_and_low,
    second_try_only,
    usual_at_second,
)

ANSWERS = 80
GUESS = 0.25
GROUP, LARGE_GROUP = 20, 30
QUESTIONS = 20
OPTIONS = 4
COPIED = 0.5
FITTED = 60
# Of a group that shares a misconception: how many do, and in how many questions it shows.
MISLED, MISLEADING = 0.3, 6
LURE = (0.85, 0.10, 0.05)


@dataclass(frozen=True, slots=True)
class Asked:
    """Shares of learners who are asked about: of honest ones by crowd, and of planted ones."""

    signal: str
    honest: dict[str, float]
    planted: float
    learners: int


def _rng(seed: int, name: str) -> np.random.Generator:
    return np.random.default_rng([seed, *name.encode()])


def _share(learners: int, asked: Callable[[], bool]) -> float:
    return sum(asked() for _ in range(learners)) / learners


def _term(rng: np.random.Generator, ability: float, rapid: float, pace: float) -> list[Timed]:
    """The answers of a term. rapid: share that is guessed at once. pace: mean of the logarithm."""
    chance = 1 / (1 + np.exp(-(ability - rng.normal(0, 1, ANSWERS))))
    guessed = rng.random(ANSWERS) < rapid
    right = rng.random(ANSWERS) < np.where(guessed, GUESS, GUESS + (1 - GUESS) * chance)
    taken = np.where(
        guessed, rng.uniform(0.02, 0.09, ANSWERS), np.exp(rng.normal(pace, 0.5, ANSWERS))
    )
    return [Timed(float(t), bool(r), GUESS) for t, r in zip(taken, right, strict=True)]


def rapid(learners: int, seed: int) -> Asked:
    """Honest learners whose attention slips in one answer of fifty, quick ones among them; planted
    ones guess a quarter of the time."""
    rng = _rng(seed, "rapid")

    def asked(share: float, pace: float = 0.0) -> Callable[[], bool]:
        return lambda: (
            rapid_and_low(_term(rng, rng.normal(), share, rng.normal(pace, 0.3))) is not None
        )

    honest = {
        "usual": _share(learners, asked(0.02)),
        "quick": _share(learners, asked(0.02, np.log(0.37))),
    }
    return Asked("rapid and low", honest, _share(learners, asked(0.25)), learners)


def fast(learners: int, seed: int) -> Asked:
    """Honest learners of every ability and pace, and able ones who need 37% of the usual time;
    planted ones have the answers beforehand."""
    rng = _rng(seed, "fast")

    def asked(ability: float, spread: float, pace: float, paces: float) -> Callable[[], bool]:
        return lambda: (
            fast_and_high(_term(rng, rng.normal(ability, spread), 0.0, rng.normal(pace, paces)))
            is not None
        )

    honest = {
        "usual": _share(learners, asked(0.0, 1.5, 0.0, 0.3)),
        "able and quick": _share(learners, asked(3.0, 0.5, np.log(0.37), 0.05)),
    }
    return Asked("fast and high", honest, _share(learners, asked(5.0, 0.0, -1.4, 0.2)), learners)


def misfit(learners: int, seed: int) -> Asked:
    """Honest learners of every ability over 60 questions, the fit looked at as it stands at the end
    of every tenth answer; some slip in one of ten, some are right one time in four on what they do
    not know. Planted ones miss half of the easier half carelessly and have the answers to half of
    the harder one from elsewhere."""
    rng = _rng(seed, "misfit")

    def asked(
        slips: float = 0.0, guesses: float = 0.0, careless: float = 0.0
    ) -> Callable[[], bool]:
        def one() -> bool:
            ability, b = rng.normal(0, 1), rng.normal(0, 1, FITTED)
            right = rng.random(FITTED) < 1 / (1 + np.exp(-(ability - b)))
            right &= rng.random(FITTED) >= slips
            right |= rng.random(FITTED) < guesses
            other = rng.random(FITTED) < careless
            right = np.where(other, b > np.median(b), right)
            answers = [
                Answered(0, ResponseCurve(1.0, float(d)), int(r))
                for d, r in zip(b, right, strict=True)
            ]
            fits = (
                fit_at_mode(answers[:n], np.zeros(1), np.array([[1.0]]), SLACK)
                for n in range(20, FITTED + 1, 10)
            )
            return any(ask_misfit(fit) is not None for fit in fits)

        return one

    honest = {
        "usual": _share(learners, asked()),
        "slip": _share(learners, asked(slips=0.1)),
        "guess": _share(learners, asked(guesses=0.25)),
    }
    return Asked("does not fit", honest, _share(learners, asked(careless=0.5)), learners)


def second(learners: int, seed: int) -> Asked:
    """Honest learners mend a miss at the second try about half the time; where hints are good,
    everybody nearly always, and weak ones have many misses. Planted ones always mend, among others
    who do not, and are right at the first try a quarter of the time."""
    rng = _rng(seed, "second")

    def asked(ability: float | None, mends: float | None, usual: float) -> Callable[[], bool]:
        def one() -> bool:
            level = 1 / (1 + np.exp(-rng.normal())) if ability is None else ability
            first = int(rng.binomial(ANSWERS, level))
            again = rng.uniform(0.2, 0.6) if mends is None else mends
            misses = ANSWERS - first
            mended = int(rng.binomial(misses, again))
            theirs = GROUP * FEWEST_MISSES
            others = usual_at_second(Counted(int(rng.binomial(theirs, usual)), theirs))
            found = second_try_only(Counted(first, ANSWERS), Counted(mended, misses), others)
            return found is not None

        return one

    honest = {
        "usual": _share(learners, asked(None, None, 0.4)),
        "weak, good hints": _share(learners, asked(0.2, 0.92, 0.92)),
    }
    planted = _share(learners, asked(0.25, 0.97, 0.4))
    return Asked("second try only", honest, planted, learners)


@dataclass(frozen=True, slots=True)
class _Class:
    """A group at a test with the same versions. lure: one wrong answer tempts most who are wrong.
    misled: some share a misconception."""

    size: int = GROUP
    lure: bool = False
    misled: bool = False

    def answers(self, rng: np.random.Generator) -> tuple[Array, Array]:
        """Answers (learner, question), of which 0 is right, and chances of being right."""
        ability, difficulty = rng.normal(0, 1, self.size), rng.normal(0, 1, QUESTIONS)
        knows = 1 / (1 + np.exp(-(ability[:, None] - difficulty[None, :])))
        chance = GUESS + (1 - GUESS) * knows
        shares = (
            np.tile(LURE, (QUESTIONS, 1))
            if self.lure
            else rng.dirichlet(np.ones(OPTIONS - 1), QUESTIONS)
        )
        wrong = [1 + rng.choice(OPTIONS - 1, self.size, p=shares[q]) for q in range(QUESTIONS)]
        answers = np.where(rng.random(chance.shape) < chance, 0, np.array(wrong).T)
        if self.misled:
            who = rng.random(self.size) < MISLED
            answers[np.ix_(who, rng.permutation(QUESTIONS)[:MISLEADING])] = 1
        return answers, chance


def _sheets(answers: Array, chance: Array) -> dict[int, Sheet]:
    """As the pairs are looked at."""
    return {
        learner: Sheet(
            {str(q): RIGHT if given[q] == 0 else str(int(given[q])) for q in range(QUESTIONS)},
            {str(q): float(chance[learner, q]) for q in range(QUESTIONS)},
        )
        for learner, given in enumerate(answers)
    }


def same_answers(groups: int, seed: int) -> Asked:
    """Honest groups at a test of twenty questions, every pair looked at; in planted ones a learner
    takes half of the answers of another."""
    rng = _rng(seed, "same")

    def alarms(kind: _Class) -> float:
        asked: list[int] = []
        for _ in range(groups):
            found = alike_pairs(_sheets(*kind.answers(rng)))
            asked += {learner for pair in found for learner in (pair.one, pair.other)}
        return len(asked) / (groups * kind.size)

    honest = {
        "usual": alarms(_Class()),
        "a tempting answer": alarms(_Class(lure=True)),
        "a shared misconception": alarms(_Class(misled=True)),
        "a shared misconception, group of 30": alarms(_Class(LARGE_GROUP, misled=True)),
    }
    planted = 0
    for _ in range(groups):
        answers, chance = _Class().answers(rng)
        taken = rng.random(QUESTIONS) < COPIED
        answers[0] = np.where(taken, answers[1], answers[0])
        found = alike_pairs(_sheets(answers, chance))
        planted += any((pair.one, pair.other) == (0, 1) for pair in found)
    return Asked("the same answers", honest, planted / groups, groups * GROUP)


def every_signal(learners: int, seed: int) -> list[Asked]:
    """All of them, over so many learners each."""
    return [
        rapid(learners, seed),
        fast(learners, seed),
        second(learners, seed),
        misfit(learners, seed),
        same_answers(max(1, learners // GROUP), seed),
    ]
