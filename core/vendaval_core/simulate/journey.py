"""Simulated journeys: practice of every topic of a course until its target is called met.

Learners like the model and not, through the application's own functions: the entries of the
journal, the choice of practice, coverage and the rule for "met". What is asked is whether a call
of "met" is true at the moment it is made, and whether the intervals of levels hold the truth.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from ..mastery.practice import (
    PracticeFamily,
    choose_practice,
    coverage,
    steady_after,
    target_met,
)
from ..measure.change import ChangeSettings
from ..measure.evidence import SAME_FAMILY_WEIGHT
from ..measure.grid import Array
from ..measure.journal import Entry, SideBySide
from ..measure.level import LevelScale, read_level, read_levels
from ..measure.posterior import LearnerState, Posterior, Prior
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable, success_chances

BLOCK = 50
LOOK_EVERY = 40


class Crowd(StrEnum):
    """Who practises. third: one in three never learns. forget: 0.1 logits a day in every topic.
    guess: right one time in four on what is not known, typed or not. slip: one right answer in
    twenty is lost. misjudged: the authors' difficulties are off by sd 0.5. never: nobody learns.
    """

    LIKE = "like"
    THIRD = "third"
    FORGET = "forget"
    GUESS = "guess"
    SLIP = "slip"
    MISJUDGED = "misjudged"
    NEVER = "never"


FORGOTTEN_PER_DAY = 0.1
GUESSED, SLIPPED, MISJUDGED_SD = 0.25, 0.05, 0.5


@dataclass(frozen=True, slots=True)
class JourneyFamily:
    """A family of the bank: its topic's number, its curve as judged, and what coverage asks."""

    key: str
    topic: int
    curve: ResponseCurve
    essential: bool
    versions: int


@dataclass(frozen=True, slots=True)
class Journey:
    """What to simulate. most: questions in a topic before the learner goes on to the next.

    sitting: questions in one. days: between sittings. targets: in per cent, by topic.
    """

    prior: Prior
    families: tuple[JourneyFamily, ...]
    targets: tuple[float, ...]
    learners: int = 300
    crowd: Crowd = Crowd.LIKE
    most: int = 40
    sitting: int = 12
    days: float = 1.0
    seed: int = 1
    change: ChangeSettings = field(default_factory=ChangeSettings)


@dataclass(slots=True)
class Calls:
    """What became of some learners.

    met (K,), true (K,): calls by topic, and those of them that were true when made. left (K,):
    topics left without one. questions: to each call. inside (2,), looked (2,): 80 % intervals
    that held the truth, and intervals looked at, in topics not practised yet and in others.
    points (2,): sums of shown level less true level there. unsettled: sweeps that did not settle.
    """

    met: NDArray[np.int64]
    true: NDArray[np.int64]
    left: NDArray[np.int64]
    questions: list[int]
    inside: NDArray[np.int64]
    looked: NDArray[np.int64]
    points: Array
    unsettled: int = 0

    @classmethod
    def none(cls, topics: int) -> Calls:
        """Nothing yet."""
        zero = np.zeros(topics, dtype=np.int64)
        pair = np.zeros(2, dtype=np.int64)
        return cls(zero, zero.copy(), zero.copy(), [], pair, pair.copy(), np.zeros(2))

    def plus(self, other: Calls) -> Calls:
        """Both together."""
        return Calls(
            self.met + other.met,
            self.true + other.true,
            self.left + other.left,
            self.questions + other.questions,
            self.inside + other.inside,
            self.looked + other.looked,
            self.points + other.points,
            self.unsettled + other.unsettled,
        )


@dataclass(slots=True)
class _Learner:
    """Where one learner is: the topic under practice and what happened in it."""

    truth: Array
    rng: random.Random
    learns: bool
    topic: int = 0
    answered: int = 0
    in_sitting: int = 0
    steady: float = 0.0
    misses: int = 0
    last: str | None = None
    turn: int = 0
    right: dict[str, int] = field(default_factory=dict)
    seen: dict[str, int] = field(default_factory=dict)
    sat: set[str] = field(default_factory=set)


class _Block:
    """Some learners side by side."""

    def __init__(self, journey: Journey, numbers: Sequence[int]) -> None:
        self.journey = journey
        topics = journey.prior.size
        self.table = FamilyTable.of([(f.key, f.topic, f.curve) for f in journey.families], topics)
        self.by_key = {family.key: family for family in journey.families}
        self.by_topic = [[f for f in journey.families if f.topic == t] for t in range(topics)]
        rng = np.random.default_rng([journey.seed, 2])
        off = rng.normal(0, MISJUDGED_SD, len(journey.families))
        if journey.crowd is not Crowd.MISJUDGED:
            off = np.zeros(len(off))
        self.true_curves = {
            f.key: ResponseCurve(f.curve.a, f.curve.b + o, f.curve.c, _shifted(f.curve.steps, o))
            for f, o in zip(journey.families, off, strict=True)
        }
        self.scales = [LevelScale.of([f.curve for f in own]) for own in self.by_topic]
        self.true_scales = [
            LevelScale.of([self.true_curves[f.key] for f in own]) for own in self.by_topic
        ]
        root = np.asarray(np.linalg.cholesky(journey.prior.covariance), dtype=np.float64)
        self.learners = [self._learner(n, root) for n in numbers]
        self.batch = SideBySide(journey.prior, [LearnerState.of(journey.prior)] * len(numbers))
        self.calls = Calls.none(topics)

    def _learner(self, number: int, root: Array) -> _Learner:
        journey = self.journey
        normal = np.random.default_rng([journey.seed, 3, number]).normal(size=journey.prior.size)
        learns = journey.crowd is not Crowd.NEVER
        if journey.crowd is Crowd.THIRD:
            learns = number % 3 > 0
        rng = random.Random(f"{journey.seed}:journey:{number}")
        return _Learner(journey.prior.mean + root @ normal, rng, learns)

    def entry(self, learner: _Learner, posterior: Posterior) -> tuple[JourneyFamily, Entry]:
        """The question a learner is asked next, and what they answer."""
        success = success_chances(self.table, posterior, learner.topic)
        families = [
            PracticeFamily(
                f.key,
                f.essential,
                f.versions,
                learner.right.get(f.key, 0),
                learner.seen.get(f.key, -1),
                success[f.key],
            )
            for f in self.by_topic[learner.topic]
        ]
        family = self.by_key[choose_practice(families, learner.misses, learner.last).family]
        days = 0.0
        if learner.in_sitting >= self.journey.sitting:
            days, learner.in_sitting = self.journey.days, 0
            learner.sat.clear()
            if self.journey.crowd is Crowd.FORGET:
                learner.truth -= FORGOTTEN_PER_DAY * days
        weight = SAME_FAMILY_WEIGHT if family.key in learner.sat else 1.0
        outcome = self._outcome(learner, family)
        return family, Entry(family.topic, family.curve, outcome, weight, days, learning=True)

    def _outcome(self, learner: _Learner, family: JourneyFamily) -> int:
        curve, rng, crowd = self.true_curves[family.key], learner.rng, self.journey.crowd
        chances = curve.probabilities(learner.truth[[family.topic]])[:, 0]
        luck, outcome = rng.random(), 0
        while outcome < curve.categories - 1 and luck >= chances[: outcome + 1].sum():
            outcome += 1
        if crowd is Crowd.GUESS and outcome < curve.categories - 1:
            lucky = 0.0 if curve.c else GUESSED
            outcome += rng.random() < lucky
        if crowd is Crowd.SLIP and outcome > 0:
            outcome -= rng.random() < SLIPPED
        return int(outcome)

    def answered(
        self, learner: _Learner, family: JourneyFamily, entry: Entry, posterior: Posterior
    ) -> None:
        """What follows an answer: learning, coverage, and the call when the target is met."""
        change, rng = self.journey.change, learner.rng
        top = family.curve.categories - 1
        right = entry.outcome == top
        if learner.learns:
            learner.truth[family.topic] += rng.gauss(0, change.drift_sd)
            if rng.random() < change.jump_chance:
                learner.truth[family.topic] += rng.gauss(change.jump_mean, change.jump_sd)
        learner.turn += 1
        learner.in_sitting += 1
        learner.answered += 1
        learner.sat.add(family.key)
        learner.seen[family.key], learner.last = learner.turn, family.key
        learner.misses = 0 if right else learner.misses + 1
        if right:
            held = learner.right.get(family.key, 0)
            learner.right[family.key] = min(held + 1, family.versions)
        topic = learner.topic
        target = self.journey.targets[topic]
        sd = float(posterior.sd[topic])
        reading = read_level(posterior.marginals[topic], sd, self.scales[topic], target)
        learner.steady = steady_after(learner.steady, reading.chance, entry.weight)
        covered = coverage(
            [
                PracticeFamily(f.key, f.essential, f.versions, learner.right.get(f.key, 0), 0, 0.0)
                for f in self.by_topic[topic]
            ]
        )
        met = target_met(learner.steady, covered)
        if met:
            level = self.true_scales[topic].level(float(learner.truth[topic]))
            self.calls.met[topic] += 1
            self.calls.true[topic] += level >= target
            self.calls.questions.append(learner.answered)
        elif learner.answered >= self.journey.most:
            self.calls.left[topic] += 1
        if met or learner.answered >= self.journey.most:
            learner.topic += 1
            learner.answered = learner.misses = 0
            learner.steady = 0.0
            learner.last = None

    def look(self, learner: _Learner, posterior: Posterior) -> None:
        """Whether every topic's interval holds the truth now."""
        readings = read_levels(posterior.marginals, posterior.sd, self.scales, self.journey.targets)
        for topic, reading in enumerate(readings):
            level = self.true_scales[topic].level(float(learner.truth[topic]))
            practised = int(topic <= learner.topic)
            self.calls.inside[practised] += reading.low <= level <= reading.high
            self.calls.looked[practised] += 1
            self.calls.points[practised] += reading.level - level


def _shifted(steps: tuple[float, ...], by: float) -> tuple[float, ...]:
    return tuple(step + by for step in steps)


def run_journeys(
    journey: Journey, numbers: NDArray[np.int64], progress: Callable[[int], None] = lambda _: None
) -> Calls:
    """Simulate the learners of these numbers. progress: called with learners who have finished."""
    block = _Block(journey, [int(n) for n in numbers])
    topics = journey.prior.size
    places = np.arange(len(block.learners))
    joint = block.batch.converge(places)
    posteriors = {int(p): block.batch.posterior(joint, int(p), int(p)) for p in places}
    going = [int(place) for place in places]
    while going:
        asked = {p: block.entry(block.learners[p], posteriors[p]) for p in going}
        joint = block.batch.fold({p: entry for p, (_, entry) in asked.items()}, journey.change)
        block.calls.unsettled += int(np.sum(~joint.converged))
        for index, place in enumerate(going):
            learner = block.learners[place]
            posteriors[place] = block.batch.posterior(joint, index, place)
            family, entry = asked[place]
            block.answered(learner, family, entry, posteriors[place])
            if learner.turn % LOOK_EVERY == 0 and learner.topic < topics:
                block.look(learner, posteriors[place])
        still = [place for place in going if block.learners[place].topic < topics]
        progress(len(going) - len(still))
        going = still
    return block.calls


def journey_blocks(journey: Journey) -> list[NDArray[np.int64]]:
    """The journey's learners, in pieces that can be run on their own."""
    return np.array_split(np.arange(journey.learners), max(1, -(-journey.learners // BLOCK)))


def journey_summary(journey: Journey, calls: Calls) -> dict[str, object]:
    """The figures, for JSON. Shares 0 to 1; shown_less_true in points of the level."""
    third = -(-journey.prior.size // 3)
    first, last = slice(0, third), slice(-third, None)

    def share(part: float, whole: float) -> float | None:
        return round(float(part / whole), 4) if whole else None

    def by_practice(parts: Array, wholes: Array) -> dict[str, float | None]:
        names = ("not_practised", "practised")
        pairs = zip(names, parts, wholes, strict=True)
        return {name: share(float(part), float(whole)) for name, part, whole in pairs}

    looked = calls.looked.astype(np.float64)
    return {
        "crowd": journey.crowd.value,
        "learners": journey.learners,
        "seed": journey.seed,
        "calls": int(calls.met.sum()),
        "true": share(calls.true.sum(), calls.met.sum()),
        "true_in_the_first_third": share(calls.true[first].sum(), calls.met[first].sum()),
        "true_in_the_last_third": share(calls.true[last].sum(), calls.met[last].sum()),
        "left_without_a_call": int(calls.left.sum()),
        "median_questions_to_a_call": float(np.median(calls.questions))
        if calls.questions
        else None,
        "interval_80_holds": by_practice(calls.inside.astype(np.float64), looked),
        "shown_less_true": by_practice(calls.points, looked),
        "unsettled": calls.unsettled,
    }
