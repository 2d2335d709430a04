"""Simulated practice in one topic, to hold the treatment of change to its bars.

The topic has six families at the five judged difficulties (two in the middle), half of them
with a guessing chance of 0.25. Families are chosen as in practice. Every question comes in a
sitting of its own unless `one_sitting` is asked for, so that it has its full weight.
"""

from __future__ import annotations

import random
from dataclasses import dataclass

import numpy as np

from ..mastery.practice import (
    LIKELY_ENOUGH,
    STEADY_ENOUGH,
    PracticeFamily,
    choose_practice,
    steady_after,
)
from ..measure.evidence import SAME_FAMILY_WEIGHT
from ..measure.journal import Entry, advance
from ..measure.kernels import ChangeSettings
from ..measure.level import DEFAULT_TARGET, LevelScale, read_level
from ..measure.posterior import LearnerState, Prior, infer
from ..measure.response import DISCRIMINATION, ResponseCurve
from ..measure.selection import FamilyTable, success_chances

DIFFICULTIES = (-2.0, -1.2, -0.4, -0.4, 0.4, 1.2)
PRIOR_SD = 1.3


@dataclass(frozen=True, slots=True)
class Jump:
    """A learner who moves to another level (per cent) after a number of questions."""

    after: int
    level: float


def _topic() -> tuple[list[ResponseCurve], FamilyTable, LevelScale, Prior]:
    curves = [
        ResponseCurve(DISCRIMINATION, b, 0.25 if i % 2 else 0.0) for i, b in enumerate(DIFFICULTIES)
    ]
    table = FamilyTable.of([(str(i), 0, curve) for i, curve in enumerate(curves)], 1)
    prior = Prior.of(np.zeros(1), np.array([[PRIOR_SD**2]]))
    return curves, table, LevelScale.of(curves), prior


def questions_to_met(
    level: float,
    most: int,
    seed: int,
    settings: ChangeSettings,
    *,
    jump: Jump | None = None,
    one_sitting: bool = False,
    running: float = STEADY_ENOUGH,
    likely: float = LIKELY_ENOUGH,
) -> int | None:
    """Questions until the target is met as far as certainty goes, None when not within `most`.

    level: the learner's true level in per cent. With a jump, counted from the jump.
    running: weight of answers running after which the chance, of `likely` at least, is believed;
    1 is its first touch.
    """
    curves, table, scale, prior = _topic()
    rng = random.Random(seed)
    state = LearnerState.of(prior)
    posterior, state = infer(prior, state)
    seen: dict[str, int] = {}
    right: dict[str, int] = {}
    last, misses, steady = None, 0, 0.0
    start = jump.after if jump else 0
    for question in range(most):
        true = scale.ability(jump.level if jump and question >= start else level)
        success = success_chances(table, posterior, 0)
        families = [
            PracticeFamily(k, True, 50, right.get(k, 0), seen.get(k, -1), success[k])
            for k in table.keys
        ]
        key = choose_practice(families, misses, last).family
        curve = curves[int(key)]
        outcome = int(rng.random() < curve.probabilities(np.array([true]))[1, 0])
        weight = SAME_FAMILY_WEIGHT if one_sitting and key in seen else 1.0
        entry = Entry(0, curve, outcome, weight, learning=True)
        posterior, state = advance(prior, state, entry, settings)
        right[key] = right.get(key, 0) + outcome
        misses = 0 if outcome else misses + 1
        seen[key], last = question, key
        reading = read_level(posterior.marginals[0], float(posterior.sd[0]), scale, DEFAULT_TARGET)
        steady = steady_after(steady, reading.chance, weight, likely)
        if steady >= running and question >= start:
            return question + 1 - start
    return None


def median_questions(found: list[int | None]) -> float:
    """Median of questions to met; those never met count as infinitely many."""
    return float(np.median([np.inf if n is None else n for n in found]))


def share_met(found: list[int | None]) -> float:
    """Share of runs in which the target was called met."""
    return sum(n is not None for n in found) / len(found)
