"""One step of a diagnostic: which topics are settled, what to ask next, how long is left."""

from __future__ import annotations

import random
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from ..measure.level import LevelReading, LevelScale
from ..measure.lookahead import questions_left
from ..measure.posterior import Posterior
from ..measure.selection import (
    STOPPED_WEIGHT,
    Choice,
    FamilyTable,
    choose_diagnostic,
    gains,
    used_up,
)
from ..measure.stopping import LEAST_ANSWERS, TopicStatus, topic_status

SUGGEST_STOP_SECONDS = 30 * 60
RAPID_RUNNING = 3
# A forecast of the questions left holds while its topic has moved by less than this many
# logits and had no more answers than this since: it is the costly part of a step.
UNMOVED = 0.15
MOST_SINCE = 2
# Topics tell of each other, so that several take fewer than each by itself. Who is far above every
# target needs fewest; who is close to one is so in others too, and needs most. Set by `simulate
# --levels`, so that the range holds four times in five for learners of every level from 20 to 95.
TOLD_BY_OTHERS = 0.1
FEWEST_SHARE = 0.38
TOGETHER = 0.25
WIDE = 1.5
MORE = 2.5


def stop_suggested(seconds: float, rapid: int) -> Literal["long", "rapid"] | None:
    """Return why a learner should pause: after a long stretch (seconds without a pause), or when
    that many answers running came too fast to tell anything."""
    if rapid >= RAPID_RUNNING:
        return "rapid"
    return "long" if seconds >= SUGGEST_STOP_SECONDS else None


@dataclass(frozen=True, slots=True)
class Ahead:
    """Expected questions left in a topic, with their sd, and what that was worked out from: mean
    and sd of ability in logits, and answers given in the topic."""

    mean: float
    sd: float
    answers: int
    left: float
    spread: float = 0.0

    def still_holds(self, mean: float, sd: float, answers: int) -> bool:
        """Whether so little has changed that working it out again is not worth the time."""
        moved = abs(self.mean - mean) + abs(self.sd - sd)
        since = answers - self.answers
        return 0 <= since <= MOST_SINCE and moved < UNMOVED * (1 + since)

    def now(self, answers: int) -> float:
        """Expected questions left after the answers given since."""
        return max(0.5, self.left - (answers - self.answers))


@dataclass(frozen=True, slots=True)
class DiagnosticPlan:
    """statuses: by topic number of the scope. choice: None when the run is done.

    questions_left: expected number of questions until every topic has stopped; range_left: fewest
    and most that it is likely to be. uncertain: weighted
    variance over all topics, logits², which a question's gain is a share of. ahead: by open topic.
    """

    statuses: dict[int, TopicStatus]
    choice: Choice | None
    questions_left: int
    range_left: tuple[int, int] = (0, 0)
    uncertain: float = 0.0
    ahead: dict[int, Ahead] = field(default_factory=dict)


def plan_diagnostic(
    table: FamilyTable,
    posterior: Posterior,
    readings: Sequence[LevelReading],
    scales: Sequence[LevelScale],
    importance: Sequence[float],
    scope: Collection[int],
    answers: Sequence[int],
    asked: Sequence[str],
    rng: random.Random,
    *,
    remembered: Mapping[int, Ahead] = {},
    left_out: Collection[str] = (),
) -> DiagnosticPlan:
    """Plan the next question of a run.

    readings, scales, importance, answers: by topic number; answers counts the topic's own. scope:
    topics of this run. asked: families asked in this run, in order. remembered: how long topics
    were expected to take at the question before. left_out: families that may not be asked now. A
    topic with no others waits; the run ends when every open topic waits.
    """
    weights = np.asarray(importance, dtype=float)
    inside = np.isin(np.arange(len(weights)), list(scope))
    weights = np.where(inside, weights, STOPPED_WEIGHT * weights)
    known = [key for key in asked if key in table.position]
    first = gains(table, posterior, weights, scope)
    first[used_up(table, known)] = 0.0
    statuses = {
        topic: topic_status(
            readings[topic],
            answers[topic],
            float(max(first[list(table.of_topic(topic))], default=0.0)),
            weights[topic] * float(posterior.sd[topic]) ** 2,
        )
        for topic in sorted(scope)
    }
    blocked = {*left_out, *(table.keys[row] for row in used_up(table, known))}
    open_topics = [
        topic
        for topic, status in statuses.items()
        if status is TopicStatus.OPEN
        and any(table.keys[row] not in blocked for row in table.of_topic(topic))
    ]
    if not open_topics:
        return DiagnosticPlan(statuses, None, 0)
    stopped = [topic for topic in statuses if topic not in open_topics]
    weights[stopped] *= STOPPED_WEIGHT
    gain = gains(table, posterior, weights, open_topics)
    ahead = {
        topic: kept
        for topic, kept in remembered.items()
        if topic in open_topics
        and kept.still_holds(
            float(posterior.mean[topic]), float(posterior.sd[topic]), answers[topic]
        )
    }
    changed = [topic for topic in open_topics if topic not in ahead]
    targets = [reading.target for reading in readings]
    left, variance = questions_left(
        table, posterior.marginals, posterior.covariance, scales, targets, answers, changed
    )
    for topic, count, var in zip(changed, left, variance, strict=True):
        mean, sd = float(posterior.mean[topic]), float(posterior.sd[topic])
        ahead[topic] = Ahead(mean, sd, answers[topic], float(count), float(np.sqrt(var)))
    choice = choose_diagnostic(table, gain, open_topics, asked, rng, left_out)
    uncertain = float(weights @ posterior.sd**2)
    return DiagnosticPlan(statuses, choice, *_left(ahead, answers), uncertain, ahead)


def _left(ahead: Mapping[int, Ahead], answers: Sequence[int]) -> tuple[int, tuple[int, int]]:
    """Questions left of a run, and the range that holds it four times in five."""
    alone = sum(kept.now(answers[topic]) for topic, kept in ahead.items())
    expected = alone * (1 - TOLD_BY_OTHERS * (1 - 1 / len(ahead)))
    apart = sum(kept.spread**2 for kept in ahead.values())
    together = sum(kept.spread for kept in ahead.values()) ** 2
    spread = float(np.sqrt(apart + TOGETHER * (together - apart)))
    at_least = sum(max(1, LEAST_ANSWERS - answers[topic]) for topic in ahead)
    about = max(at_least, round(expected))
    fewest = max(at_least, round(FEWEST_SHARE * expected))
    return about, (min(fewest, about), max(about, round(expected + WIDE * spread + MORE)))
