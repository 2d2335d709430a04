"""What the next answer in a topic would do to its level, and how many would settle it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.language import gettext

from ..measure.grid import THETA, Array, moments
from ..measure.level import LevelReading, LevelScale, read_level
from ..measure.lookahead import questions_left
from ..measure.posterior import Posterior
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable, spreads_of_means
from ..measure.stopping import CLEAR_CHANCE
from ..words import counted


@dataclass(frozen=True, slots=True)
class Outlook:
    """questions: expected number until the level is settled, 0 when it is. if_right, if_missed:
    the reading after the answer to the most informative question, learning aside."""

    questions: int
    if_right: LevelReading
    if_missed: LevelReading


def _after(
    mass: Array, curve: ResponseCurve, outcome: int, scale: LevelScale, target: float
) -> LevelReading:
    moved = mass * np.exp(curve.log_likelihood(outcome, THETA))
    moved /= moved.sum()
    _, variance = moments(moved)
    return read_level(moved, float(np.sqrt(variance)), scale, target)


def outlook(
    table: FamilyTable,
    posterior: Posterior,
    scales: Sequence[LevelScale],
    targets: Sequence[float],
    answers: Sequence[int],
    curves: Sequence[ResponseCurve],
    topic: int,
) -> Outlook:
    """Return what the next answer would do to a topic's level, and how many answers settle it.

    table, posterior: of all topics. scales, targets (per cent), answers: by topic number. curves:
    of the topic's families, in the table's order.
    """
    left, _ = questions_left(
        table, posterior.marginals, posterior.covariance, scales, targets, answers, [topic]
    )
    best = int(spreads_of_means(table, posterior)[topic, : len(curves)].argmax())
    mass, curve = posterior.marginals[topic], curves[best]
    right, missed = (
        _after(mass, curve, outcome, scales[topic], targets[topic])
        for outcome in (curve.categories - 1, 0)
    )
    return Outlook(round(float(left[0])), right, missed)


def outlook_sentence(found: Outlook, now: LevelReading) -> str:
    """Return one sentence on how far a level is from being settled."""
    if found.questions == 0:
        if not now.known:
            return gettext("More of these questions won’t make it much clearer.")
        if now.chance <= 1 - CLEAR_CHANCE:
            return gettext(
                "We’re sure for now: you’re below the target. Learning will move you up."
            )
        if now.chance >= CLEAR_CHANCE:
            return gettext("We’re sure: you’re at the target.")
        return gettext("We know this level well enough.")
    return gettext("After about {more_answers} we’ll know your level well.").format(
        more_answers=counted(found.questions, "more answer")
    )
