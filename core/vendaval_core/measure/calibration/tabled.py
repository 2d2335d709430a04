"""A table of answers from elsewhere, such as a test on paper, calibrated as a course's log is."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping

import numpy as np

from vendaval_core.language import gettext

from ..grid import Array
from ..response import ResponseCurve
from .course import LogAnswer
from .observed import ObservedPoint, observed_points
from .table import MISSING, MOST_PROBLEMS, ResponseTable, Scores

ABILITIES = np.linspace(-4.0, 4.0, 81)


def table_faults(table: ResponseTable, curves: Mapping[str, ResponseCurve]) -> list[str]:
    """Say why a table is none of a course's questions. curves: of all its families, by key."""
    found = []
    for name, most in zip(table.items, table.scores.max(axis=0), strict=True):
        if name not in curves:
            found.append(gettext("line 1: “{name}” is no question of the course").format(name=name))
        elif most >= curves[name].categories:
            says = gettext("{name}: {most} is more than its {best}, which is all of it")
            best = curves[name].categories - 1
            found.append(says.format(name=name, most=int(most), best=best))
    return found[:MOST_PROBLEMS]


def histories(table: ResponseTable, topics: Mapping[str, str]) -> dict[str, list[list[LogAnswer]]]:
    """Return each person's answers by topic, all given at once, so that nobody learns between
    them. topics: of the families, by key."""
    found: dict[str, list[list[LogAnswer]]] = defaultdict(list)
    for row in table.scores:
        own: dict[str, list[LogAnswer]] = defaultdict(list)
        for name, score in zip(table.items, row.tolist(), strict=True):
            if score != MISSING:
                own[topics[name]].append(LogAnswer(name, 1, score, 1.0, 0.0, False, 0.0))
        for topic, answers in own.items():
            found[topic].append(answers)
    return found


def observed_in(
    table: ResponseTable, curves: Mapping[str, ResponseCurve], begins: tuple[float, float]
) -> dict[str, list[ObservedPoint]]:
    """What was observed of the families of one topic: shares by ability, which is the mean of what
    is believed of each person from their answers to the others.

    curves: of the topic's families in the table. begins: mean and sd of the ability, logits.
    """
    places = [place for place, name in enumerate(table.items) if name in curves]
    scores = table.scores[:, places]
    names = [table.items[place] for place in places]
    own = np.stack([_log_chances(curves[n], scores[:, at]) for at, n in enumerate(names)], axis=1)
    prior = -0.5 * ((ABILITIES - begins[0]) / begins[1]) ** 2
    whole = own.sum(axis=1) + prior
    found = {}
    for at, name in enumerate(names):
        rest = whole - own[:, at]
        weights = np.exp(rest - rest.max(axis=1, keepdims=True))
        # Those who gave the same other answers are of the same ability, to the last digit.
        abilities = np.round(weights @ ABILITIES / weights.sum(axis=1), 6)
        given = scores[:, at] != MISSING
        shares = scores[given, at] / (curves[name].categories - 1)
        found[name] = observed_points(
            list(zip(abilities[given].tolist(), shares.tolist(), strict=True))
        )
    return found


def _log_chances(curve: ResponseCurve, scores: Scores) -> Array:
    """Logarithms of the chance of each score over the abilities; 0 where it is missing.
    Shape (N, 81)."""
    chances = np.log(curve.probabilities(ABILITIES))
    return np.where((scores == MISSING)[:, None], 0.0, chances[np.maximum(scores, 0)])
