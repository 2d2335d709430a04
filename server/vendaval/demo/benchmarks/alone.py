"""One answer in the core alone: a warm update and a selection, with the peers beside it.

The peers measure one dimension where the core joins 18 topics. Each is used as its documentation
shows: an ability estimate from all answers so far, then the most informative item of the bank.
"""

from __future__ import annotations

import importlib.util
import random

import numpy as np

from vendaval_core.measure.grid import THETA
from vendaval_core.measure.posterior import LearnerState, Prior, infer
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.measure.selection import FamilyTable, choose_diagnostic, gains

from .timing import Figures, milliseconds, timed

ANSWERS = 60
BARS = {("catsim", 1000): 3.0, ("catsim", 10000): 8.0, ("catpie", 10000): 10.0}


def _random_curve(rng: np.random.Generator, number: int) -> ResponseCurve:
    guess = 0.2 * (number % 2)
    return ResponseCurve(float(rng.lognormal(0.2, 0.3)), float(rng.normal()), guess)


def update_and_selection(topics: int, families: int, answers: int = ANSWERS) -> Figures:
    """Warm updates and selections over a random bank."""
    rng = np.random.default_rng(1)
    curves = [(str(i), i % topics, _random_curve(rng, i)) for i in range(families)]
    table = FamilyTable.of(curves, topics)
    prior = Prior.of_course([t // 3 for t in range(topics)], mean=0, sd=1.3, within=0.5, across=0.3)
    state, weights = LearnerState.of(prior), np.ones(topics)
    posterior, state = infer(prior, state)
    updates: list[float] = []
    selections: list[float] = []
    asked: list[str] = []
    for turn in range(answers):
        with timed(selections):
            gain = gains(table, posterior, weights, range(topics))
            key = choose_diagnostic(table, gain, range(topics), asked, random.Random(turn)).family
        asked.append(key)
        _, topic, curve = curves[int(key)]
        with timed(updates):
            row = curve.log_likelihood(int(rng.integers(2)), THETA)
            posterior, state = infer(prior, state.with_evidence(topic, row, 1.0))
    whole = [u + s for u, s in zip(updates, selections, strict=True)]
    return {
        "topics": topics,
        "families": families,
        "update": milliseconds(updates),
        "selection": milliseconds(selections),
        "answer": milliseconds(whole),
    }


def _items(families: int) -> np.ndarray:
    rng = np.random.default_rng(1)
    curves = [_random_curve(rng, i) for i in range(families)]
    return np.array([(curve.a, curve.b, curve.c, 1.0) for curve in curves])


def _catsim(families: int) -> list[float]:
    from catsim.estimation import NumericalSearchEstimator
    from catsim.item_bank import ItemBank
    from catsim.selection import MaxInfoSelector

    bank = ItemBank(_items(families))
    estimator, selector = NumericalSearchEstimator(), MaxInfoSelector()
    rng = np.random.default_rng(2)
    times: list[float] = []
    asked: list[int] = []
    right: list[bool] = []
    ability = 0.0
    for _ in range(ANSWERS):
        with timed(times):
            item = selector.select(item_bank=bank, administered_items=asked, est_theta=ability)
            asked.append(int(item or 0))
            right.append(bool(rng.integers(2)))
            ability = estimator.estimate(
                item_bank=bank,
                administered_items=asked,
                response_vector=right,
                est_theta=ability,
            )
    return times


def _catpie(families: int) -> list[float]:
    import catpie

    bank = [tuple(map(float, row)) for row in _items(families)]
    rng = np.random.default_rng(2)
    times: list[float] = []
    asked: list[int] = []
    right: list[int] = []
    for _ in range(ANSWERS // 2):
        with timed(times):
            ability = catpie.eapEst([bank[i] for i in asked], right) if asked else 0.0
            asked.append(catpie.nextItem(bank, ability, out=asked).item)
            right.append(int(rng.integers(2)))
    return times


PEERS = {"catsim": _catsim, "catpie": _catpie}


def beside_peers(families: int) -> Figures:
    """18 topics of so many families in all, and the peers that are installed, in one run."""
    found = update_and_selection(18, families)
    own = found["answer"]["median_ms"]
    for name, run in PEERS.items():
        if importlib.util.find_spec(name) is None:
            found[name] = "not installed: make bench-tools"
            continue
        figures = milliseconds(run(families))
        ratio = round(figures["median_ms"] / own, 1)
        found[name] = figures | {"times_as_long": ratio, "bar": BARS.get((name, families))}
    return found
