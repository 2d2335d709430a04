"""Eight weeks of the whole circle, without a database: a short diagnostic, then each day rechecks
that are due, misses to mend, and practice in the order that is recommended, or at random.

Everything is decided by the core's own rules: what is recommended, what is asked, when a target is
met, what a recheck finds, and what is forecast. Each person is a generator that yields what they
answer and is sent what is believed of them afterwards, so that many can be measured side by side.
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from vendaval_core.mastery.steps import SLACK

from ..mastery.forecast import TopicAhead, forecasts
from ..mastery.practice import (
    Coverage,
    PracticeFamily,
    choose_practice,
    coverage,
    steady_after,
    target_met,
)
from ..mastery.recheck import FIRST_AFTER_DAYS, has_held, next_after, recheck_families
from ..mastery.recommend import recommend_practice
from ..mastery.steps import TopicStanding
from ..measure.change import ChangeSettings
from ..measure.evidence import SAME_FAMILY_WEIGHT
from ..measure.grid import probability_above
from ..measure.journal import Entry, SideBySide
from ..measure.level import LevelReading, LevelScale, read_levels
from ..measure.posterior import LearnerState, Posterior, Prior
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable, success_chances
from .pupil import Kind, Pupil

BLOCK = 25
DIAGNOSTIC_QUESTIONS = 3
PRACTICE_BLOCK = 8
MENDS_A_DAY = 4
FORECAST_DAYS = (7, 21, 35)


class Choice(StrEnum):
    """How a topic to practise is chosen."""

    RECOMMENDED = "recommended"
    RANDOM = "random"


@dataclass(frozen=True, slots=True)
class CircleFamily:
    """A family of the bank. seconds: a question takes, feedback aside."""

    key: str
    topic: int
    curve: ResponseCurve
    essential: bool
    versions: int
    seconds: float


@dataclass(frozen=True, slots=True)
class Circle:
    """What to simulate. targets: per cent, importance: 1 is ordinary, by topic. minutes: a day."""

    prior: Prior
    families: tuple[CircleFamily, ...]
    targets: tuple[float, ...]
    importance: tuple[float, ...]
    learners: int = 200
    days: int = 56
    minutes: float = 20.0
    choice: Choice = Choice.RECOMMENDED
    seed: int = 1
    change: ChangeSettings = field(default_factory=ChangeSettings)


@dataclass(frozen=True, slots=True)
class Told:
    """A forecast and what came: of one topic of one person, said on a day for the end."""

    day: int
    said: float
    came: bool


@dataclass(slots=True)
class Course:
    """What became of one person. met: day and whether it was true then, by topic. questions: asked
    in a topic until it was met. met_by_day (days,). misses: left open at the end. held, lost:
    rechecks. above: topics truly at their target at the end."""

    kind: Kind
    met: dict[int, tuple[int, bool]] = field(default_factory=dict)
    questions: dict[int, int] = field(default_factory=dict)
    met_by_day: list[int] = field(default_factory=list)
    misses: int = 0
    mended: int = 0
    held: int = 0
    lost: int = 0
    above: int = 0
    answered: int = 0
    told: list[Told] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class _Bank:
    """The families in the forms that are asked for."""

    circle: Circle
    table: FamilyTable
    by_key: dict[str, CircleFamily]
    by_topic: list[list[CircleFamily]]
    scales: list[LevelScale]
    seconds: list[float]
    wanted: list[float]

    @classmethod
    def of(cls, circle: Circle) -> _Bank:
        size = circle.prior.size
        by_topic = [[f for f in circle.families if f.topic == t] for t in range(size)]
        scales = [LevelScale.of([f.curve for f in own]) for own in by_topic]
        return cls(
            circle,
            FamilyTable.of([(f.key, f.topic, f.curve) for f in circle.families], size),
            {f.key: f for f in circle.families},
            by_topic,
            scales,
            [float(np.mean([f.seconds for f in own])) for own in by_topic],
            [s.ability(t) for s, t in zip(scales, circle.targets, strict=True)],
        )


Life = Generator[Entry, Posterior, None]


class _Learner:
    """One person and what the application would keep of them."""

    def __init__(self, bank: _Bank, pupil: Pupil, posterior: Posterior) -> None:
        self.bank, self.pupil, self.posterior = bank, pupil, posterior
        size = bank.circle.prior.size
        self.course = Course(pupil.kind)
        self.right: dict[str, int] = {}
        self.seen: dict[str, int] = {}
        self.steady = [0.0] * size
        self.asked = [0] * size
        self.recheck: dict[int, tuple[float, float]] = {}
        self.missed: list[str] = []
        self.sat: set[str] = set()
        self.turn, self.day, self.left, self.away = 0, 0, 0.0, 0.0
        self.said: list[tuple[int, int, float]] = []

    def ask(self, key: str, *, learning: bool) -> Generator[Entry, Posterior, bool]:
        """One question: answered, measured, counted. Whether it was right."""
        family = self.bank.by_key[key]
        outcome = self.pupil.answer(key, family.curve, family.topic)
        weight = SAME_FAMILY_WEIGHT if key in self.sat else 1.0
        entry = Entry(family.topic, family.curve, outcome, weight, self.away, learning=learning)
        self.away = 0.0
        self.posterior = yield entry
        if learning:
            self.pupil.learn(family.topic, self.bank.circle.change)
        self.turn += 1
        self.course.answered += 1
        self.asked[family.topic] += 1
        self.sat.add(key)
        self.seen[key] = self.turn
        self.left -= family.seconds * SLACK
        right = outcome == family.curve.categories - 1
        if right:
            self.right[key] = min(self.right.get(key, 0) + 1, family.versions)
            if key in self.missed:
                self.missed.remove(key)
                self.course.mended += 1
        elif key not in self.missed:
            self.missed.append(key)
        self._count(family.topic, weight)
        return right

    def _count(self, topic: int, weight: float) -> None:
        chance = self.chance(topic)
        self.steady[topic] = steady_after(self.steady[topic], chance, weight)
        if not target_met(self.steady[topic], self.coverage(topic)):
            return
        if topic not in self.recheck:
            self.recheck[topic] = (self.day + FIRST_AFTER_DAYS, FIRST_AFTER_DAYS)
        if topic not in self.course.met:
            self.course.met[topic] = (self.day, self.truly_above(topic))
            self.course.questions[topic] = self.asked[topic]

    def chance(self, topic: int) -> float:
        """Chance of being at a topic's target."""
        return probability_above(self.posterior.marginals[topic], self.bank.wanted[topic])

    def readings(self) -> list[LevelReading]:
        return read_levels(
            self.posterior.marginals,
            self.posterior.sd,
            self.bank.scales,
            self.bank.circle.targets,
        )

    def truly_above(self, topic: int) -> bool:
        own = [self.pupil.curve(f.key, f.curve) for f in self.bank.by_topic[topic]]
        level = LevelScale.of(own).level(float(self.pupil.truth[topic]))
        return level >= self.bank.circle.targets[topic]

    def families(self, topic: int) -> list[PracticeFamily]:
        success = success_chances(self.bank.table, self.posterior, topic)
        return [
            PracticeFamily(
                f.key,
                f.essential,
                f.versions,
                self.right.get(f.key, 0),
                self.seen.get(f.key, -1),
                success[f.key],
            )
            for f in self.bank.by_topic[topic]
        ]

    def coverage(self, topic: int) -> Coverage:
        return coverage(
            [
                PracticeFamily(f.key, f.essential, f.versions, self.right.get(f.key, 0), 0, 0.0)
                for f in self.bank.by_topic[topic]
            ]
        )

    def order(self) -> list[int]:
        """Topics whose target is not met, in the order that is recommended."""
        circle, readings = self.bank.circle, self.readings()
        standings = [
            TopicStanding(
                key=str(topic),
                title="",
                reading=readings[topic],
                marginal=self.posterior.marginals[topic],
                scale=self.bank.scales[topic],
                importance=circle.importance[topic],
                coverage=self.coverage(topic),
                seconds=self.bank.seconds[topic],
                steady=self.steady[topic],
                misses=sum(self.bank.by_key[key].topic == topic for key in self.missed),
            )
            for topic in range(circle.prior.size)
        ]
        return [int(step.topic or 0) for step in recommend_practice(standings, circle.change)]

    def life(self) -> Life:
        """Every day of it."""
        circle = self.bank.circle
        waiting = list(self._diagnostic())
        for self.day in range(circle.days):
            self.pupil.sleep(1.0)
            self.sat.clear()
            self.left, self.away = 60 * circle.minutes, 1.0 if self.day else 0.0
            if self.day in FORECAST_DAYS:
                self._forecast()
            while waiting and self.left > 0:
                yield from self.ask(waiting.pop(0), learning=False)
            yield from self._rechecks()
            yield from self._mends()
            yield from self._practice()
            self.course.met_by_day.append(len(self.course.met))
        self._close()

    def _diagnostic(self) -> Iterator[str]:
        """Some questions of each topic, those of middling difficulty first."""
        for own in self.bank.by_topic:
            middle = sorted(own, key=lambda f: abs(f.curve.b))
            yield from (f.key for f in middle[:DIAGNOSTIC_QUESTIONS])

    def _rechecks(self) -> Life:
        due = [(at, topic) for topic, (at, _) in self.recheck.items() if at <= self.day]
        for at, topic in sorted(due):
            if self.left <= 0:
                return
            days = self.recheck[topic][1] + self.day - at
            for key in recheck_families(self.families(topic)):
                yield from self.ask(key, learning=False)
            if has_held(self.chance(topic)):
                self.course.held += 1
                self.recheck[topic] = (self.day + next_after(days), next_after(days))
            else:
                self.course.lost += 1
                del self.recheck[topic]
                self.steady[topic] = 0.0

    def _mends(self) -> Life:
        for key in list(self.missed)[:MENDS_A_DAY]:
            if self.left <= 0:
                return
            yield from self.ask(key, learning=True)

    def _practice(self) -> Life:
        while self.left > 0:
            order = self.order()
            if not order:
                return
            topic = order[0]
            if self.bank.circle.choice is Choice.RANDOM:
                topic = self.pupil.rng.randrange(self.bank.circle.prior.size)
            misses, last = 0, None
            for _ in range(PRACTICE_BLOCK):
                chosen = choose_practice(self.families(topic), misses, last)
                right = yield from self.ask(chosen.family, learning=True)
                misses, last = 0 if right else misses + 1, chosen.family
                if self.left <= 0 or target_met(self.steady[topic], self.coverage(topic)):
                    break

    def _forecast(self) -> None:
        """What would be forecast today for the end, topic by topic."""
        circle = self.bank.circle
        ahead = [
            TopicAhead(
                self.bank.scales[t].ability(circle.targets[t]),
                self.bank.seconds[t] * SLACK,
                self.coverage(t).answers_left,
                self.steady[t],
                t in self.course.met,
                tuple(f.curve for f in self.bank.by_topic[t]),
                self._recheck_ahead(t),
            )
            for t in range(circle.prior.size)
        ]
        days = circle.days - self.day
        plan = np.full((1, days), circle.minutes)
        seed = self.pupil.rng.randrange(2**31)
        (found,) = forecasts(self.posterior, ahead, self.order(), plan, circle.change, seed)
        self.said += [
            (self.day, t, float(found.by_topic[t]))
            for t in range(circle.prior.size)
            if t not in self.course.met
        ]

    def _recheck_ahead(self, topic: int) -> tuple[float, float] | None:
        if topic not in self.recheck:
            return None
        at, days = self.recheck[topic]
        late = max(0.0, self.day - at)
        return at + late - self.day, days + late

    def _close(self) -> None:
        self.course.told = [
            Told(day, said, topic in self.course.met) for day, topic, said in self.said
        ]
        self.course.misses = len(self.missed)
        self.course.above = sum(map(self.truly_above, range(self.bank.circle.prior.size)))


def run_circle(
    circle: Circle, numbers: NDArray[np.int64], progress: Callable[[int], None] = lambda _: None
) -> list[Course]:
    """Simulate the learners of these numbers. progress: called with learners who have finished."""
    bank = _Bank.of(circle)
    root = np.asarray(np.linalg.cholesky(circle.prior.covariance), dtype=np.float64)
    pupils = [Pupil.drawn(circle.prior, root, circle.seed, int(n)) for n in numbers]
    batch = SideBySide(circle.prior, [LearnerState.of(circle.prior)] * len(pupils))
    places = np.arange(len(pupils))
    joint = batch.converge(places)
    learners = [
        _Learner(bank, pupil, batch.posterior(joint, int(p), int(p)))
        for p, pupil in zip(places, pupils, strict=True)
    ]
    lives = {int(place): learners[place].life() for place in places}
    asked = {place: next(life) for place, life in lives.items()}
    while asked:
        joint = batch.fold(asked, circle.change)
        going: dict[int, Entry] = {}
        for index, place in enumerate(asked):
            try:
                going[place] = lives[place].send(batch.posterior(joint, index, place))
            except StopIteration:
                progress(1)
        asked = going
    return [learner.course for learner in learners]


def circle_blocks(circle: Circle) -> list[NDArray[np.int64]]:
    """The learners, in pieces that can be run on their own."""
    return np.array_split(np.arange(circle.learners), max(1, -(-circle.learners // BLOCK)))
