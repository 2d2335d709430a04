"""Which topics to practise next.

Topics are ordered by the targets expected to be met per minute, weighted by importance. The
factors below are judgements.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..measure.grid import THETA
from ..measure.kernels import ChangeSettings
from .practice import LIKELY_ENOUGH, target_met
from .step_words import practice_reason
from .steps import SLACK, Step, StepKind, TopicStanding, answers_running, minutes_for

EXPECTED_RIGHT = 0.75
LEAST = 1e-6
# Practice that builds on what is missing brings about a third.
UNMET_PREREQUISITE = 0.35
# A mistake in a topic shows where a quarter of an hour is well spent.
PER_MISS = 0.15
# What was practised today may wait for tomorrow: by turns teaches better than in blocks.
RECENT_EFFORT = 0.5
FEWEST, MOST = 3, 15
# Who seems not to learn at all is still given an order of topics.
SLOWEST_PACE = 0.2


def questions_to_target(standing: TopicStanding) -> int:
    """Return how many questions a learner near the target will need: a judgement, 3 to 15."""
    short = max(0.0, LIKELY_ENOUGH - standing.reading.chance)
    by_chance = answers_running(standing.steady) if short == 0 else 3 + round(10 * short)
    fewest = 1 if short == 0 else FEWEST
    return max(fewest, min(MOST, max(by_chance, standing.coverage.answers_left)))


def practice_value(standing: TopicStanding, settings: ChangeSettings, pace: float = 1.0) -> float:
    """Return the targets expected to be met per minute of practice, weighted by importance.

    A learner at the target already needs the answers that cover it and show it. A learner below
    also needs the answers for the distance, by the learning model. Shortest first meets most
    targets soonest: Smith's rule (1956) for jobs by weight and length. The simulated weeks of
    docs/measurement.md compare it with what was tried before.
    """
    reading, marginal = standing.reading, standing.marginal
    target = standing.scale.ability(reading.target)
    below = target > THETA
    short = float(marginal[below] @ (target - THETA[below])) / max(1 - reading.chance, LEAST)
    shown = standing.coverage.answers_left / EXPECTED_RIGHT
    shown = max(shown, answers_running(standing.steady), 1.0)
    learned = short / (max(pace, SLOWEST_PACE) * settings.jump_chance * settings.jump_mean)
    met = reading.chance / shown + (1 - reading.chance) / (shown + learned)
    value = standing.importance * met / (standing.seconds * SLACK / 60)
    value *= 1 + PER_MISS * min(standing.misses, 4)
    value *= 1 - RECENT_EFFORT * standing.recent
    return value * (UNMET_PREREQUISITE if standing.waiting_for else 1.0)


def wants_practice(standing: TopicStanding) -> bool:
    """Return whether a topic's target is still to be reached, or was and has become doubtful."""
    done = standing.reached or target_met(standing.steady, standing.coverage)
    return standing.taught and not done


def recommend_practice(
    standings: Sequence[TopicStanding], settings: ChangeSettings, pace: float = 1.0
) -> list[Step]:
    """Return a practice step for every topic that wants practice, best first. pace: of learning, as
    expected of this learner."""
    steps = []
    for standing in standings:
        if not wants_practice(standing):
            continue
        questions = questions_to_target(standing)
        steps.append(
            Step(
                StepKind.PRACTISE,
                standing.key,
                standing.title,
                practice_reason(standing),
                minutes_for(questions, standing.seconds),
                questions,
                practice_value(standing, settings, pace),
            )
        )
    return sorted(steps, key=lambda step: -step.value)
