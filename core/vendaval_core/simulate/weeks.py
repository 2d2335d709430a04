"""Some weeks of the whole circle, without a database: a short diagnostic, then each day rechecks
that are due, misses to mend, and practice in the order that is recommended, or at random.

Everything is decided by the core's own rules: what is recommended, what is asked, when a target is
met, what a recheck finds, and what is forecast. Each person is a generator that yields what they
answer and is sent what is believed of them afterwards, so that many can be measured side by side.
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator

import numpy as np
from numpy.typing import NDArray

from ..mastery.forecast import MENDS_A_DAY, TopicAhead, forecasts
from ..mastery.practice import (
    TO_BE_CHECKED,
    Coverage,
    PracticeFamily,
    choose_practice,
    coverage,
    steady_after,
    target_met,
)
from ..mastery.recheck import (
    LAPSE_CHANCE,
    QUESTIONS,
    has_held,
    next_after,
    questions_more,
    recheck_families,
)
from ..mastery.recommend import recommend_practice
from ..mastery.steps import SLACK, TopicStanding
from ..measure.effort import Effort
from ..measure.evidence import weight_of
from ..measure.grid import probability_above
from ..measure.journal import Entry, SideBySide
from ..measure.level import LevelReading, LevelScale, read_levels
from ..measure.posterior import LearnerState, Posterior
from ..measure.rates import Paces, prior_paces
from ..measure.selection import success_chances
from .circle import Choice, Circle, CircleBank, Course, Told
from .pupil import Pupil
from .recheck_trial import try_out

DIAGNOSTIC_QUESTIONS = 3
PRACTICE_BLOCK = 8
FORECAST_DAYS = (7, 21, 35)

Life = Generator[Entry, Posterior, None]


class _Learner:
    """One person and what the application would keep of them."""

    def __init__(self, bank: CircleBank, pupil: Pupil, batch: SideBySide, place: int) -> None:
        self.bank, self.pupil, self.batch, self.place = bank, pupil, batch, place
        self.posterior = _posterior(batch, place)
        size = bank.circle.prior.size
        self.course = Course(pupil.crowd)
        self.effort = Effort()
        self.right: dict[str, int] = {}
        self.seen: dict[str, int] = {}
        self.steady = [0.0] * size
        self.asked = [0] * size
        self.checked: set[int] = set()
        self.recheck: dict[int, tuple[float, float]] = {}
        self.missed: list[str] = []
        self.sat: set[str] = set()
        self.turn, self.day, self.left, self.away = 0, 0, 0.0, 0.0
        self.said: list[tuple[int, int, float]] = []

    def ask(
        self, key: str, *, learning: bool, lapse: float = 0.0
    ) -> Generator[Entry, Posterior, bool]:
        """One question: answered, measured, counted. Whether it was right."""
        family = self.bank.by_key[key]
        given = self.pupil.answer(key, family.curve, family.topic)
        outcome, right = given.outcome, given.outcome == family.curve.categories - 1
        self.effort = self.effort.after(right=right, share=given.share)
        weight, _ = weight_of(
            family_in_sitting=key in self.sat,
            helped=False,
            seconds=given.share * family.seconds,
            mean_seconds=family.seconds,
            gave_up=self.effort.given_up,
        )
        entry = Entry(
            family.topic, family.curve, outcome, weight, self.away, learning=learning, lapse=lapse
        )
        self.away = 0.0
        self.posterior = yield entry
        if learning:
            self.pupil.learn(family.topic, self.bank.circle.change)
        self.turn += 1
        self.course.answered += 1
        self.asked[family.topic] += 1
        self.sat.add(key)
        self.seen[key] = self.turn
        self.left -= family.seconds * given.share * SLACK
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
            days = self._next_check(topic, None)
            self.recheck[topic] = (self.day + days, days)
        if topic not in self.course.met:
            self.course.met[topic] = (self.day, self.truly_above(topic))
            self.course.questions[topic] = self.asked[topic]

    def chance(self, topic: int) -> float:
        """Chance of being at a topic's target."""
        return probability_above(self.posterior.marginals[topic], self.bank.wanted[topic])

    def _next_check(self, topic: int, held_for: float | None) -> float:
        mass, wanted = self.posterior.marginals[topic], self.bank.wanted[topic]
        return next_after(held_for, mass, wanted, self.paces, self.bank.circle.change)

    @property
    def paces(self) -> Paces:
        """What is believed of this person's paces."""
        chances = self.batch.followed.chances(np.array([self.place]))[0]
        return Paces(*prior_paces(self.bank.circle.change), chances)

    def readings(self) -> list[LevelReading]:
        return read_levels(
            self.posterior.marginals,
            self.posterior.sd,
            self.bank.scales,
            self.bank.circle.targets,
        )

    def true_level(self, topic: int) -> float:
        """Level they truly have, per cent."""
        own = [self.pupil.curve(f.key, f.curve) for f in self.bank.by_topic[topic]]
        return LevelScale.of(own).level(float(self.pupil.truth[topic]))

    def truly_above(self, topic: int) -> bool:
        return self.true_level(topic) >= self.bank.circle.targets[topic]

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
        pace = self.paces.learning_mean
        return [int(step.topic or 0) for step in recommend_practice(standings, circle.change, pace)]

    def life(self) -> Life:
        """Every day of it."""
        circle = self.bank.circle
        waiting = list(self._diagnostic())
        for self.day in range(circle.days):
            self.pupil.sleep(1.0, circle.change)
            self.effort = Effort()
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
            if self.day in self.bank.look_days:
                self._look(self.bank.look_days.index(self.day))
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
            if topic not in self.checked and self.bank.circle.trials:
                self.checked.add(topic)
                keys = recheck_families(self.families(topic))
                state = self.batch.state(self.place)
                self.course.checks += try_out(self.bank, state, self.pupil, topic, keys, self.away)
            asked, more = 0, QUESTIONS
            while more:
                for key in recheck_families(self.families(topic))[:more]:
                    yield from self.ask(key, learning=False, lapse=0.0 if asked else LAPSE_CHANCE)
                    asked += 1
                more = questions_more(asked, self.chance(topic))
            if has_held(self.chance(topic)):
                self.course.held += 1
                days = self._next_check(topic, days)
                self.recheck[topic] = (self.day + days, days)
            else:
                self.course.lost += 1
                del self.recheck[topic]
                self.steady[topic] = 0.0

    def _look(self, stage: int) -> None:
        """Whether every topic's interval holds the truth now."""
        for topic, reading in enumerate(self.readings()):
            practised = self.asked[topic] > DIAGNOSTIC_QUESTIONS
            held, looked = self.course.looks.get((stage, practised), (0, 0))
            held += reading.low <= self.true_level(topic) <= reading.high
            self.course.looks[stage, practised] = (held, looked + 1)

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
                sum(self.bank.by_key[key].topic == t for key in self.missed),
            )
            for t in range(circle.prior.size)
        ]
        days = circle.days - self.day
        plan = np.full((1, days), circle.minutes)
        seed = self.pupil.rng.randrange(2**31)
        (found,) = forecasts(
            self.posterior, self.paces, ahead, self.order(), plan, circle.change, seed
        )
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
        self.course.pace = self.paces.learning_mean
        self.course.forgets = self.paces.forgetting_mean
        self.course.called = [
            self.truly_above(topic) for topic in self.recheck if self.chance(topic) >= TO_BE_CHECKED
        ]
        self.course.above = sum(map(self.truly_above, range(self.bank.circle.prior.size)))


def _posterior(batch: SideBySide, place: int) -> Posterior:
    return batch.posterior(batch.converge(np.array([place])), 0, place)


def run_circle(
    circle: Circle, numbers: NDArray[np.int64], progress: Callable[[int], None] = lambda _: None
) -> list[Course]:
    """Simulate the learners of these numbers. progress: called with learners who have finished."""
    bank = CircleBank.of(circle)
    root = np.asarray(np.linalg.cholesky(circle.prior.covariance), dtype=np.float64)
    pupils = [Pupil.drawn(circle.prior, root, circle.seed, circle.crowd, int(n)) for n in numbers]
    batch = SideBySide(circle.prior, [LearnerState.of(circle.prior)] * len(pupils), circle.change)
    learners = [_Learner(bank, pupil, batch, place) for place, pupil in enumerate(pupils)]
    lives = {learner.place: learner.life() for learner in learners}
    asked = {place: next(life) for place, life in lives.items()}
    while asked:
        joint = batch.fold(asked)
        going: dict[int, Entry] = {}
        for index, place in enumerate(asked):
            try:
                going[place] = lives[place].send(batch.posterior(joint, index, place))
            except StopIteration:
                progress(1)
        asked = going
    return [learner.course for learner in learners]
