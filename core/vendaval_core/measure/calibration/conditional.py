"""Conditional maximum likelihood for the Rasch model (Andersen 1972), on complete tables.

Given the raw score the ability drops out. The elementary symmetric functions are built up item by
item, scaled so that none of them leaves the range of floating point.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.optimize import minimize

from vendaval_core.language import gettext

from ...errors import DoesNotSettle, TableInvalid
from ..grid import Array
from .table import ResponseTable

GRADIENT = 1e-6
DIFFERENCE = 1e-4
LEAST = 1e-290
RANK = 1e-6


@dataclass(frozen=True, slots=True)
class ConditionalFit:
    """Rasch difficulties in logits, mean 0, with standard errors, each (J,)."""

    items: tuple[str, ...]
    difficulties: Array
    errors: Array
    log_likelihood: float


def _grown(functions: Array, log_scale: Array, factors: Array) -> tuple[Array, Array]:
    """Functions (n, J + 1) with one more item, of easiness factor (n,), greatest value 1 again."""
    functions[:, 1:] += factors[:, None] * functions[:, :-1]
    greatest = functions.max(axis=1, keepdims=True)
    return functions / greatest, log_scale + np.log(greatest)


def symmetric_functions(easiness: Array) -> tuple[Array, Array]:
    """Return the logs of the elementary symmetric functions γ_0 … γ_J of exp(easiness), and the
    same without each item in turn.

    easiness (J,), logits. Returns (J + 1,) and (J, J + 1). Values more than 290 orders of magnitude
    below the greatest of their row, and those that don't exist, are held there.
    """
    items = len(easiness)
    start = np.zeros((items + 1, items + 1))
    start[:, 0] = 1.0
    functions, log_scale = start, np.zeros((items + 1, 1))
    for item, value in enumerate(easiness):
        factors = np.full(items + 1, np.exp(value))
        factors[item] = 0.0
        functions, log_scale = _grown(functions, log_scale, factors)
    logs = np.log(np.maximum(functions, LEAST)) + log_scale
    return logs[-1], logs[:-1]


def _value(easiness: Array, totals: Array, counts: Array) -> tuple[float, Array]:
    """Minus the conditional log likelihood, and its gradient.

    totals (J,): right answers by item. counts (J + 1,): persons by raw score.
    """
    whole, without = symmetric_functions(easiness)
    value = counts @ whole - easiness @ totals
    chance = np.exp(easiness[:, None] + without[:, :-1] - whole[None, 1:])
    return float(value), np.asarray(chance @ counts[1:] - totals)


def fit_conditional(table: ResponseTable) -> ConditionalFit:
    """Fit the Rasch model by conditional maximum likelihood (Andersen 1972). Raises TableInvalid
    for scores other than 0 and 1 or a missing answer."""
    if table.scores.max() > 1 or not table.complete:
        raise TableInvalid([gettext("conditional estimation needs a complete table of 0 and 1")])
    scores = table.scores.astype(float)
    raw = scores.sum(axis=1)
    inside = (raw > 0) & (raw < scores.shape[1])
    totals = scores[inside].sum(axis=0)
    counts = np.bincount(raw[inside].astype(int), minlength=scores.shape[1] + 1).astype(float)

    def objective(free: Array) -> tuple[float, Array]:
        value, gradient = _value(free - free.mean(), totals, counts)
        return value, gradient - gradient.mean()

    found = minimize(
        objective,
        np.zeros(scores.shape[1]),
        jac=True,
        method="BFGS",
        options={"gtol": GRADIENT * len(scores), "maxiter": 500},
    )
    easiness = found.x - found.x.mean()
    if np.abs(objective(easiness)[1]).max() > 1e-3 * len(scores):
        raise DoesNotSettle(gettext("the conditional likelihood has no maximum that can be found"))
    information = np.empty((len(easiness), len(easiness)))
    for item in range(len(easiness)):
        shift = np.zeros_like(easiness)
        shift[item] = DIFFERENCE
        up, down = (_value(easiness + s, totals, counts)[1] for s in (shift, -shift))
        information[item] = (up - down) / (2 * DIFFERENCE)
    information = 0.5 * (information + information.T)
    errors = np.sqrt(np.diagonal(np.linalg.pinv(information, rcond=RANK, hermitian=True)))
    value = -_value(easiness, totals, counts)[0]
    return ConditionalFit(table.items, -easiness, errors, value)
