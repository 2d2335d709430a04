"""Simulated practice whose curves are known, to see whether its log gives them back.

Learners begin as the prior says, learn in steps and drift with time as the model of change says.
Practice chooses for them through the application's own functions, by the judged curves; they answer
by the true ones. Then a key may be turned the wrong way round.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from ..mastery.practice import PracticeFamily, choose_practice
from ..measure.calibration.course import LogAnswer, Proposal, propose
from ..measure.journal import Entry, SideBySide
from ..measure.kernels import ChangeSettings
from ..measure.posterior import LearnerState, Posterior, Prior
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable, success_chances

BLOCK = 50
STEPS = (-2.0, -1.2, -0.4, 0.4, 1.2)
VERSIONS = 50


@dataclass(frozen=True, slots=True)
class Known:
    """What to simulate. topics of so many families each, of which every other can be guessed one
    time in four; answers in each topic, in sittings with days between. slope_sd: of the logarithm
    of the true slopes. off_sd: by which judged difficulties are off. spread: of the versions of a
    family. sd: of ability."""

    learners: int = 150
    topics: int = 3
    families: int = 9
    answers: int = 36
    sitting: int = 12
    days: float = 1.0
    slope_sd: float = 0.25
    off_sd: float = 0.5
    spread: float = 0.0
    sd: float = 1.3
    seed: int = 1
    change: ChangeSettings = field(default_factory=ChangeSettings)

    @property
    def judged(self) -> list[dict[str, ResponseCurve]]:
        """The curves that practice goes by, by topic."""
        return [
            {
                f"{topic}-{n}": ResponseCurve(1.3, STEPS[n % len(STEPS)], 0.25 * (n % 2))
                for n in range(self.families)
            }
            for topic in range(self.topics)
        ]

    @property
    def true(self) -> dict[str, ResponseCurve]:
        """The curves that learners answer by."""
        rng = np.random.default_rng([self.seed, 1])
        return {
            key: ResponseCurve(
                one.a * math.exp(rng.normal(0, self.slope_sd)),
                one.b + float(rng.normal(0, self.off_sd)),
                one.c,
            )
            for own in self.judged
            for key, one in own.items()
        }


Log = list[list[list[LogAnswer]]]
"""By learner and topic, in order."""


class _Learner:
    """One simulated learner, and what practice knows of them."""

    def __init__(self, known: Known, number: int, root: NDArray[np.float64]) -> None:
        normal = np.random.default_rng([known.seed, 2, number]).normal(size=known.topics)
        self.truth, self.rng = root @ normal, random.Random(f"{known.seed}:known:{number}")
        self.right: dict[str, int] = {}
        self.seen: dict[str, int] = {}
        self.misses, self.last = 0, ""
        self.log: list[list[LogAnswer]] = [[] for _ in range(known.topics)]

    def family(self, own: dict[str, ResponseCurve], success: dict[str, float]) -> str:
        """The family that practice asks next."""
        offered = [
            PracticeFamily(
                key, True, VERSIONS, self.right.get(key, 0), self.seen.get(key, -1), success[key]
            )
            for key in own
        ]
        return choose_practice(offered, self.misses, self.last or None).family

    def answer(self, known: Known, topic: int, turn: int, key: str, curve: ResponseCurve) -> Entry:
        """What they answer, and what answering does to them. turn: of all, from 0."""
        rng, change = self.rng, known.change
        days = known.days if turn % known.sitting == 0 and turn else 0.0
        if days:
            wide = math.sqrt(change.variance_per_day * days)
            self.truth = self.truth + np.array([rng.gauss(0, wide) for _ in self.truth])
        version = 1 + rng.randrange(VERSIONS)
        off = random.Random(f"{known.seed}:{key}:{version}").gauss(0, known.spread)
        chance = float(curve.probabilities(np.array([self.truth[topic] - off]))[1, 0])
        outcome = int(rng.random() < chance)
        self.seen[key], self.last = turn, key
        self.misses = 0 if outcome else self.misses + 1
        self.right[key] = self.right.get(key, 0) + outcome
        own = self.log[topic]
        since = days if own else 0.0
        own.append(LogAnswer(key, version, outcome, 1.0, since, True, float(turn)))
        self.truth[topic] += rng.gauss(0, change.drift_sd)
        if rng.random() < change.jump_chance:
            self.truth[topic] += rng.gauss(change.jump_mean, change.jump_sd)
        return Entry(topic, known.judged[topic][key], outcome, 1.0, days, learning=True)


def known_blocks(known: Known) -> list[NDArray[np.int64]]:
    """The learners, in pieces that can be run on their own."""
    return np.array_split(np.arange(known.learners), max(1, -(-known.learners // BLOCK)))


def practised_log(known: Known, numbers: NDArray[np.int64]) -> Log:
    """Return the log of the learners of these numbers, topic after topic."""
    prior = Prior.of_course([0] * known.topics, mean=0.0, sd=known.sd, within=0.5, across=0.3)
    root = np.asarray(np.linalg.cholesky(prior.covariance), dtype=np.float64)
    learners = [_Learner(known, int(number), root) for number in numbers]
    judged, true = known.judged, known.true
    rows = [(key, t, curve) for t, own in enumerate(judged) for key, curve in own.items()]
    table = FamilyTable.of(rows, known.topics)
    batch = SideBySide(prior, [LearnerState.of(prior)] * len(learners), known.change)
    places = np.arange(len(learners))
    joint = batch.converge(places)
    for turn in range(known.topics * known.answers):
        topic = turn // known.answers
        entries = {}
        for place, learner in enumerate(learners):
            posterior: Posterior = batch.posterior(joint, place, place)
            key = learner.family(judged[topic], success_chances(table, posterior, topic))
            entries[place] = learner.answer(known, topic, turn, key, true[key])
        joint = batch.fold(entries)
    return [learner.log for learner in learners]


@dataclass(frozen=True, slots=True)
class Recovered:
    """What became of one topic. found: proposals from the log as it is. turned: with the key of one
    family the wrong way round, by that family."""

    found: list[Proposal]
    turned: dict[str, list[Proposal]]


def recovered(known: Known, log: Log, topic: int, turn: Sequence[int] = ()) -> Recovered:
    """Return what a topic's log proposes, also with each family of `turn` (numbers) turned."""
    judged, own = known.judged[topic], [learner[topic] for learner in log]

    def proposals(wrong: str = "") -> list[Proposal]:
        read = [
            [
                replace(one, outcome=1 - one.outcome)
                if one.family == wrong and one.outcome is not None
                else one
                for one in history
            ]
            for history in own
        ]
        return propose(judged, read, (0.0, known.sd), known.change)

    keys = [f"{topic}-{number}" for number in turn]
    return Recovered(proposals(), {key: proposals(key) for key in keys})


def recovery_summary(known: Known, topics: Sequence[Recovered]) -> dict[str, object]:
    """The figures, for JSON. Difficulties in logits, before they are moved as one to the judged
    ones, which nobody can know better. errors_times: root mean square of what is off by its
    standard error. wrong_keys: found, and others that were said to be, of all that were looked at.
    """
    true, sound = known.true, [one for topic in topics for one in topic.found if one.proposed]
    b = np.array([one.proposed.b - one.shift for one in sound if one.proposed])
    truth = np.array([true[one.family].b for one in sound])
    errors = np.array([one.errors["b"] or math.nan for one in sound])
    slopes = [math.log(one.proposed.a / true[one.family].a) for one in sound if one.proposed]
    spreads = [one.spread.sd for one in sound if one.spread is not None]
    return {
        "learners": known.learners,
        "seed": known.seed,
        "answers_a_family": round(known.learners * known.answers / known.families),
        "proposed": len(sound),
        "slope": round(float(np.polyfit(truth, b, 1)[0]), 3),
        "rmse": round(_root_mean_square(b - truth), 3),
        "errors_times": round(_root_mean_square((b - truth) / errors), 2),
        "log_slope_rmse": round(_root_mean_square(np.array(slopes)), 3),
        "version_spread": round(float(np.mean(spreads)), 3) if spreads else None,
        "wrong_keys": _wrong_keys(topics),
    }


def _root_mean_square(values: NDArray[np.float64]) -> float:
    return float(np.sqrt(np.nanmean(values**2)))


def _wrong_keys(topics: Sequence[Recovered]) -> dict[str, object]:
    before = {one.family: one.proposed for topic in topics for one in topic.found}
    turned = [(key, found) for topic in topics for key, found in topic.turned.items()]
    looked = [one for topic in topics for one in topic.found]
    looked += [one for key, found in turned for one in found if one.family != key]
    moved = [
        abs(one.proposed.b - was.b)
        for key, found in turned
        for one in found
        if one.family != key and one.proposed is not None and (was := before[one.family])
    ]
    return {
        "tried": len(turned),
        "found": sum(one.against for key, found in turned for one in found if one.family == key),
        "falsely": sum(one.against for one in looked),
        "of": len(looked),
        "others_moved": round(float(np.mean(moved)), 3) if moved else None,
    }
