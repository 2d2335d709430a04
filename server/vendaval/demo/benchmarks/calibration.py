"""Calibration of 2000 persons on 100 items by the two-parameter model, with the peers beside it."""

from __future__ import annotations

import importlib.util
import time
import warnings
from typing import Any

import numpy as np

from vendaval_core.measure.calibration.em import Model
from vendaval_core.measure.calibration.marginal import fit_marginal
from vendaval_core.measure.calibration.table import ResponseTable

from .timing import Figures

PERSONS, ITEMS = 2000, 100


def table() -> ResponseTable:
    """A seeded table with lognormal slopes and normal difficulties."""
    rng = np.random.default_rng(1)
    slope, difficulty = rng.lognormal(0.2, 0.3, ITEMS), rng.normal(size=ITEMS)
    ability = rng.normal(size=(PERSONS, 1))
    chance = 1 / (1 + np.exp(-slope * (ability - difficulty)))
    scores = (rng.random((PERSONS, ITEMS)) < chance).astype(np.int16)
    return ResponseTable(tuple(f"i{j}" for j in range(ITEMS)), scores)


def _girth(scores: Any) -> float | None:
    import girth

    girth.twopl_mml(scores.T)
    return None


def _mirt(scores: Any) -> float | None:
    import mirt

    fit = mirt.fit_mirt(scores, model="2PL", n_quadpts=61, tol=1e-7)
    return float(fit.log_likelihood)


def two_parameters() -> Figures:
    """Seconds, log likelihoods, and how many times as long the peers take."""
    data = table()
    started = time.perf_counter()
    fit = fit_marginal(data, Model.TWO)
    own = time.perf_counter() - started
    found: Figures = {
        "persons": PERSONS,
        "items": ITEMS,
        "seconds": round(own, 2),
        "log_likelihood": round(fit.log_likelihood, 3),
    }
    scores = data.scores.astype(int)
    for name, run in (("girth", _girth), ("mirt", _mirt)):
        if importlib.util.find_spec(name) is None:
            found[name] = "not installed: make bench-tools"
            continue
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            started = time.perf_counter()
            log_likelihood = run(scores)
            seconds = time.perf_counter() - started
        found[name] = {"seconds": round(seconds, 2), "times_as_long": round(seconds / own, 1)}
        if log_likelihood is not None:
            found[name]["log_likelihood"] = round(log_likelihood, 3)
    return found
