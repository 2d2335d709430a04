"""The plan to a date: the learner played forward with the learning model, many times.

Each path draws the abilities, and a pace of learning and one of forgetting, from what is believed
now, takes the rechecks that are due, mends what was missed, practises topic after topic, learns and
forgets by the model of `measure/change.py`, answers by the topic's typical curve, and is told "met"
by the rule for it. What is believed along a path is followed by an extended Kalman filter,
one Gaussian per topic: fast, and near enough to the grid that measures (docs/measurement.md, "Plan
to a date").
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit, ndtr

from ..measure.grid import HALF_WIDTH, THETA, Array
from ..measure.kernels import ChangeSettings
from ..measure.posterior import Posterior
from ..measure.rates import Paces
from ..measure.response import ResponseCurve
from .practice import BEST_CHANCE, LIKELY_ENOUGH, STEADY_ENOUGH
from .recheck import FIRST_AFTER_DAYS, QUESTIONS

# The chance of a target is then known within 7 points, which is what is shown.
PATHS = 200
# Questions in one sitting, as simulated learners have them.
WITHOUT_A_BREAK = 12
MOST_DAYS = 200
PART_CREDIT_AS = 2.0
# Misses that are mended before a day's practice begins.
MENDS_A_DAY = 4
# After so many answers, and so many days, half of how a path's own paces differ from what is
# believed now is known (judgements, held to simulated weeks).
HALF_KNOWN_ANSWERS, HALF_KNOWN_DAYS = 150.0, 20.0
# Variance, logits², that time alone brings a topic to at the most.
WIDEST = 2.25
# A Gaussian follows a step more slowly than the grid, which expects one: so much of it is seen at
# once (a judgement, held to simulated weeks).
CAUGHT = 0.35
TINY = 1e-12
# Rechecks of a topic come about twice as late each time.
RECHECKS_GROW = 2.0


@dataclass(frozen=True, slots=True)
class TopicAhead:
    """One topic as the forecast sees it.

    target: ability wanted, logits. seconds: a question takes this learner, feedback included.
    answers_left: right answers that coverage wants. steady: see `steady_after`. met: is already.
    curves: of its families. recheck: days until the next one of a topic that is met, and days since
    it was met or last held by then. misses: open in it.
    """

    target: float
    seconds: float
    answers_left: int
    steady: float
    met: bool
    curves: tuple[ResponseCurve, ...]
    recheck: tuple[float, float] | None = None
    misses: int = 0


@dataclass(frozen=True, slots=True)
class Forecast:
    """all_met: chance that every target is met by the end. by_topic (K,): of each. minutes
    (days, K): mean minutes a path spends. met_by_day (days, 3): topics met by then, the mean, and
    the fewest and most of four paths in five.
    """

    all_met: float
    by_topic: Array
    minutes: Array
    met_by_day: Array

    def deciding(self, most: int = 3) -> list[int]:
        """Topics that are least likely to be met in time, the least likely first."""
        order = np.argsort(self.by_topic, kind="stable")
        return [int(topic) for topic in order[:most] if self.by_topic[topic] < 0.95]


@dataclass(frozen=True, slots=True)
class _Typical:
    """Of each topic (K,): mean discrimination and guessing, and the range of difficulties."""

    a: Array
    c: Array
    easiest: Array
    hardest: Array

    @classmethod
    def of(cls, topics: Sequence[TopicAhead]) -> _Typical:
        def mean(values: Sequence[float]) -> float:
            return float(np.mean(values))

        # A question with part credit tells more than one of right or wrong.
        a = [
            mean([c.a * (PART_CREDIT_AS**0.5 if c.steps else 1) for c in t.curves]) for t in topics
        ]
        return cls(
            np.array(a),
            np.array([mean([c.c for c in t.curves]) for t in topics]),
            np.array([min(c.b for c in t.curves) for t in topics]),
            np.array([max(c.b for c in t.curves) for t in topics]),
        )


def _drawn(posterior: Posterior, paths: int, rng: np.random.Generator) -> Array:
    """Abilities (paths, K) with the posterior's marginals and its correlations."""
    sd = np.sqrt(np.diagonal(posterior.covariance))
    correlation = posterior.covariance / np.outer(sd, sd)
    root = np.linalg.cholesky(correlation + 1e-9 * np.eye(len(sd)))
    chances = ndtr(rng.normal(size=(paths, len(sd))) @ root.T)
    below = np.cumsum(posterior.marginals, axis=1) - 0.5 * posterior.marginals
    return np.stack([np.interp(chances[:, k], below[k], THETA) for k in range(len(sd))], axis=1)


class _Paths:
    """All paths at once: each array is (paths, K)."""

    def __init__(
        self,
        posterior: Posterior,
        paces: Paces,
        topics: Sequence[TopicAhead],
        change: ChangeSettings,
        rng: np.random.Generator,
        paths: int,
    ) -> None:
        size = len(topics)
        self.rng, self.change, self.typical = rng, change, _Typical.of(topics)
        self.truth = _drawn(posterior, paths, rng)
        pairs = rng.choice(paces.chances.size, size=paths, p=paces.chances.ravel())
        self.rate = paces.learning[pairs // len(paces.forgetting)]
        self.forgets = paces.forgetting[pairs % len(paces.forgetting)]
        self.expected = paces.learning_mean, paces.forgetting_mean
        self.answers = np.zeros(paths)
        self.families = np.array([len(t.curves) for t in topics])
        self.misses = np.tile(np.array([float(t.misses) for t in topics]), (paths, 1))
        self.mean = np.tile(posterior.mean, (paths, 1))
        self.variance = np.tile(posterior.sd**2, (paths, 1))
        self.target = np.array([t.target for t in topics])
        self.left = np.tile(np.array([float(t.answers_left) for t in topics]), (paths, 1))
        self.steady = np.tile(np.array([t.steady for t in topics]), (paths, 1))
        self.met = np.tile(np.array([t.met for t in topics]), (paths, 1))
        self.spent = np.zeros((paths, size))
        rechecks = np.array([t.recheck or (np.inf, 0.0) for t in topics])
        self.due = np.tile(rechecks[:, 0], (paths, 1))
        self.held = np.tile(rechecks[:, 1], (paths, 1))

    def rechecks(self, day: int, working: NDArray[np.bool_], seconds: Array) -> Array:
        """Seconds (paths,) that the rechecks due on a day take those who work on it."""
        due = (self.due <= day) & working[:, None]
        self.held = np.where(due, RECHECKS_GROW * (self.held + day - self.due), self.held)
        self.due = np.where(due, day + self.held, self.due)
        return due @ (QUESTIONS * seconds)

    def sleep(self, days: int) -> None:
        """One more day passes, after `days` of them."""
        change, own = self.change, self.forgets[:, None]
        self.truth += np.sqrt(change.variance_per_day) * self.rng.normal(size=self.truth.shape)
        self.truth -= own
        known = days / (days + HALF_KNOWN_DAYS)
        self.mean -= self.expected[1] + known * (own - self.expected[1])
        self.variance = np.maximum(
            np.minimum(self.variance + change.variance_per_day, WIDEST), self.variance
        )

    def answer(
        self, who: NDArray[np.intp], topic: NDArray[np.intp], day: int, *, mending: bool = False
    ) -> None:
        """One question each of paths `who` in `topic`: answered, believed, learned from. mending:
        it is one that was missed."""
        typical, at = self.typical, (who, topic)
        a, c = typical.a[topic], typical.c[topic]
        mean, variance = self.mean[at], self.variance[at]
        wanted = mean - logit(np.clip((BEST_CHANCE - c) / (1 - c), 0.05, 0.95)) / a
        b = np.clip(wanted, typical.easiest[topic], typical.hardest[topic])
        known = expit(a * (self.truth[at] - b))
        right = self.rng.random(len(who)) < c + (1 - c) * known
        believed = expit(a * (mean - b))
        chance = c + (1 - c) * believed
        slope = (1 - c) * a * believed * (1 - believed)
        gain = variance * slope / (slope**2 * variance + chance * (1 - chance) + TINY)
        mean = mean + gain * (right - chance)
        variance = np.maximum(variance * (1 - gain * slope), 1e-3)
        likely = ndtr((mean - self.target[topic]) / np.sqrt(variance)) >= LIKELY_ENOUGH
        self.steady[at] = np.where(likely, self.steady[at] + 1, 0)
        self.left[at] -= right
        cleared = 1.0 if mending else self.misses[at] / self.families[topic]
        self.misses[at] = np.clip(
            self.misses[at] + np.where(right, -cleared, not mending), 0, self.families[topic]
        )
        before = self.met[at]
        self.met[at] |= (self.steady[at] >= STEADY_ENOUGH) & (self.left[at] <= 0)
        newly = self.met[at] & ~before
        self.due[at] = np.where(newly, day + FIRST_AFTER_DAYS, self.due[at])
        self.held[at] = np.where(newly, FIRST_AFTER_DAYS, self.held[at])
        self._learn(at, mean, variance)
        self.spent[at] += 1

    def _learn(
        self, at: tuple[NDArray[np.intp], NDArray[np.intp]], mean: Array, variance: Array
    ) -> None:
        change, count = self.change, len(mean)
        who = at[0]
        jumps = self.rng.random(count) < self.rate[who] * change.jump_chance
        jumped = jumps * self.rng.normal(change.jump_mean, change.jump_sd, size=count)
        drift = change.drift_sd * self.rng.normal(size=count)
        self.truth[at] = np.minimum(self.truth[at] + drift + jumped, HALF_WIDTH)
        mean = np.minimum(mean + CAUGHT * jumped, HALF_WIDTH)
        known = self.answers[who] / (self.answers[who] + HALF_KNOWN_ANSWERS)
        pace = self.expected[0] + known * (self.rate[who] - self.expected[0])
        self.answers[who] += 1
        by_jump = pace * change.jump_chance * change.jump_mean
        square = pace * change.jump_chance * (change.jump_mean**2 + change.jump_sd**2)
        self.mean[at] = mean + by_jump
        self.variance[at] = variance + change.drift_sd**2 + square - by_jump**2


def forecasts(
    posterior: Posterior,
    paces: Paces,
    topics: Sequence[TopicAhead],
    order: Sequence[int],
    minutes: Array,
    change: ChangeSettings,
    seed: int,
) -> list[Forecast]:
    """Simulate a learner's days, once for each plan of minutes.

    paces: of learning and forgetting, as believed of this learner. order: topics to practise, in
    the recommended order; others count but are not practised. minutes (plans, days): of practice
    each day, at most 200 days. After twelve questions in a topic that is not met, the next topic
    has its turn. seed: the same seed gives the same forecast.
    """
    minutes = minutes[:, :MOST_DAYS]
    plans, days = minutes.shape
    paths = _Paths(posterior, paces, topics, change, np.random.default_rng(seed), plans * PATHS)
    plan = np.repeat(np.arange(plans), PATHS)
    budget = 60 * np.repeat(minutes, PATHS, axis=0)
    size, seconds = len(topics), np.array([topic.seconds for topic in topics])
    rank = np.full(size, np.inf)
    rank[list(order)] = np.arange(len(order))
    spent, met = np.zeros((plans, days, size)), np.zeros((plans, days, 3))
    left = np.zeros(plans * PATHS)

    def spend(day: int, who: NDArray[np.intp], topic: NDArray[np.intp]) -> None:
        both = np.bincount(plan[who] * size + topic, seconds[topic], plans * size)
        spent[:, day] += both.reshape(plans, size) / 60 / PATHS

    for day in range(days):
        left = np.minimum(left, 0) + budget[:, day]
        if day:
            paths.sleep(day)
        left -= paths.rechecks(day, budget[:, day] > 0, seconds)
        for _ in range(MENDS_A_DAY):
            who = np.flatnonzero((left > 0) & np.any(paths.misses >= 1, axis=1))
            topic = np.argmax(paths.misses[who], axis=1)
            paths.answer(who, topic, day, mending=True)
            left[who] -= seconds[topic]
            spend(day, who, topic)
        while True:
            who = np.flatnonzero((left > 0) & ~np.all(paths.met[:, order], axis=1))
            if len(who) == 0:
                break
            rounds = paths.spent[who] // WITHOUT_A_BREAK
            topic = np.argmin(np.where(paths.met[who], np.inf, rounds * size + rank), axis=1)
            paths.answer(who, topic, day)
            left[who] -= seconds[topic]
            spend(day, who, topic)
        count = paths.met.sum(axis=1).reshape(plans, PATHS)
        low, high = np.quantile(count, (0.1, 0.9), axis=1)
        met[:, day] = np.stack([count.mean(axis=1), low, high], axis=1)
    by_plan = paths.met.reshape(plans, PATHS, size)
    return [
        Forecast(float(np.all(own, axis=1).mean()), own.mean(axis=0), spent[i], met[i])
        for i, own in enumerate(by_plan)
    ]
