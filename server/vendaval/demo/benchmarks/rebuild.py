"""States of many learners made again from their entries, in as many processes as cores."""

from __future__ import annotations

import os
import time
from concurrent.futures import ProcessPoolExecutor

import numpy as np
from tqdm import tqdm

from vendaval_core.measure.journal import Entry, rebuild
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.posterior import Prior
from vendaval_core.measure.response import judged_curve

from .timing import Figures

TOPICS, FAMILIES, TRIES = 18, 180, 100
ALL_LEARNERS = 10_000
PIECE = 64


def _history(seed: int, tries: int) -> list[Entry]:
    """A third diagnostic and the rest practice, ten tries to a sitting, two days between them."""
    rng = np.random.default_rng([5, seed])
    curves = [judged_curve(1 + i % 5, 1 + i % 2, 0.0 if i % 2 else 0.25) for i in range(FAMILIES)]
    ability = rng.normal(0, 1.2, TOPICS)
    found = []
    for number in range(tries):
        family = int(rng.integers(FAMILIES))
        topic, curve = family % TOPICS, curves[family]
        chances = curve.probabilities(ability[[topic]])[:, 0]
        outcome = int(rng.choice(len(chances), p=chances))
        days = 2.0 if number and number % 10 == 0 else 0.0
        found.append(Entry(topic, curve, outcome, 1.0, days, number >= tries // 3))
    return found


def _piece(work: tuple[int, int]) -> None:
    start, tries = work
    prior = Prior.of_course([t // 3 for t in range(TOPICS)], mean=0, sd=1.3, within=0.5, across=0.3)
    histories = [_history(start + i, tries) for i in range(PIECE)]
    rebuild(prior, histories, ChangeSettings())


def _seconds(learners: int, tries: int) -> float:
    pieces = [(start, tries) for start in range(0, learners, PIECE)]
    started = time.perf_counter()
    with ProcessPoolExecutor(os.cpu_count()) as workers:
        done = workers.map(_piece, pieces)
        for _ in tqdm(done, total=len(pieces), desc=f"Rebuilding, {tries} tries", disable=None):
            pass
    return time.perf_counter() - started


def rebuilding(learners: int) -> Figures:
    """Seconds for some learners at 50 and at 100 tries, and what 10,000 would take."""
    half, whole = _seconds(learners, TRIES // 2), _seconds(learners, TRIES)
    return {
        "learners": learners,
        "topics": TOPICS,
        "seconds_50_tries": round(half, 1),
        "seconds_100_tries": round(whole, 1),
        "minutes_for_10000_learners": round(whole / learners * ALL_LEARNERS / 60, 2),
        "bar_minutes": 10,
    }
