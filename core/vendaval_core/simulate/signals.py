"""How often signals ask about honest learners, and how often about those they are meant for."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..mastery.signal_words import ask_misfit
from ..measure.grid import Array
from ..measure.pairs import RIGHT, Sheet, alike_pairs
from ..measure.personfit import Answered, fit_at_mode
from ..measure.response import ResponseCurve
from ..measure.signals import Counted, Timed, fast_and_high, rapid_and_low, second_try_only

ANSWERS = 80
GUESS = 0.25
GROUP = 20
QUESTIONS = 20
OPTIONS = 4
COPIED = 0.5
FITTED = 60


@dataclass(frozen=True, slots=True)
class Asked:
    """Shares of learners who are asked about, of honest ones and of planted ones."""

    signal: str
    honest: float
    planted: float
    learners: int


def _rng(seed: int, name: str) -> np.random.Generator:
    return np.random.default_rng([seed, *name.encode()])


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
    """Honest learners whose attention slips in one answer of fifty; planted ones guess a quarter of
    the time."""
    rng = _rng(seed, "rapid")

    def asked(share: float) -> float:
        terms = (_term(rng, rng.normal(), share, rng.normal(0, 0.3)) for _ in range(learners))
        return sum(rapid_and_low(term) is not None for term in terms) / learners

    return Asked("rapid and low", asked(0.02), asked(0.25), learners)


def fast(learners: int, seed: int) -> Asked:
    """Honest learners of every ability and pace; planted ones have the answers beforehand."""
    rng = _rng(seed, "fast")
    honest = (_term(rng, rng.normal(0, 1.5), 0.0, rng.normal(0, 0.3)) for _ in range(learners))
    planted = (_term(rng, 5.0, 0.0, rng.normal(-1.4, 0.2)) for _ in range(learners))
    return Asked(
        "fast and high",
        sum(fast_and_high(term) is not None for term in honest) / learners,
        sum(fast_and_high(term) is not None for term in planted) / learners,
        learners,
    )


def misfit(learners: int, seed: int) -> Asked:
    """Honest learners of every ability over 60 questions, the fit looked at as it stands at the end
    of every tenth answer; planted ones miss half of the easier half carelessly and have the answers
    to half of the harder one from elsewhere."""
    rng = _rng(seed, "misfit")

    def asked(careless: float) -> float:
        count = 0
        for _ in range(learners):
            ability, b = rng.normal(0, 1), rng.normal(0, 1, FITTED)
            right = rng.random(FITTED) < 1 / (1 + np.exp(-(ability - b)))
            other = rng.random(FITTED) < careless
            right = np.where(other, b > np.median(b), right)
            answers = [
                Answered(0, ResponseCurve(1.0, float(d)), int(r))
                for d, r in zip(b, right, strict=True)
            ]
            fits = (
                fit_at_mode(answers[:n], np.zeros(1), np.array([[1.0]]))
                for n in range(20, FITTED + 1, 10)
            )
            count += any(ask_misfit(fit) is not None for fit in fits)
        return count / learners

    return Asked("does not fit", asked(0.0), asked(0.5), learners)


def second(learners: int, seed: int) -> Asked:
    """Honest learners mend a miss at the second try about half the time; planted ones always, and
    are right at the first a quarter of the time."""
    rng = _rng(seed, "second")

    def asked(ability: float | None, mends: float | None) -> float:
        count = 0
        for _ in range(learners):
            level = 1 / (1 + np.exp(-rng.normal())) if ability is None else ability
            first = int(rng.binomial(ANSWERS, level))
            again = rng.uniform(0.2, 0.6) if mends is None else mends
            misses = ANSWERS - first
            mended = int(rng.binomial(misses, again))
            found = second_try_only(Counted(first, ANSWERS), Counted(mended, misses))
            count += found is not None
        return count / learners

    return Asked("second try only", asked(None, None), asked(0.25, 0.97), learners)


def _class(rng: np.random.Generator) -> tuple[Array, Array, Array]:
    """A group at a test with the same versions: answers (learner, question), of which 0 is right,
    chances of being right, and shares of wrong answers (question, option)."""
    ability, difficulty = rng.normal(0, 1, GROUP), rng.normal(0, 1, QUESTIONS)
    knows = 1 / (1 + np.exp(-(ability[:, None] - difficulty[None, :])))
    chance = GUESS + (1 - GUESS) * knows
    shares = rng.dirichlet(np.ones(OPTIONS - 1), QUESTIONS)
    wrong = np.array([1 + rng.choice(OPTIONS - 1, GROUP, p=shares[q]) for q in range(QUESTIONS)]).T
    answers = np.where(rng.random((GROUP, QUESTIONS)) < chance, 0, wrong)
    return answers, chance, shares


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
    """Honest groups of twenty at a test of twenty questions, every pair looked at; in planted ones
    a learner takes half of the answers of another."""
    rng = _rng(seed, "same")
    honest = planted = 0
    for _ in range(groups):
        answers, chance, _ = _class(rng)
        found = alike_pairs(_sheets(answers, chance))
        honest += len({learner for pair in found for learner in (pair.one, pair.other)})
        taken = rng.random(QUESTIONS) < COPIED
        answers[0] = np.where(taken, answers[1], answers[0])
        again = alike_pairs(_sheets(answers, chance))
        planted += any((pair.one, pair.other) == (0, 1) for pair in again)
    return Asked("the same answers", honest / (groups * GROUP), planted / groups, groups * GROUP)


def every_signal(learners: int, seed: int) -> list[Asked]:
    """All of them, over so many learners each."""
    return [
        rapid(learners, seed),
        fast(learners, seed),
        second(learners, seed),
        misfit(learners, seed),
        same_answers(max(1, learners // GROUP), seed),
    ]
