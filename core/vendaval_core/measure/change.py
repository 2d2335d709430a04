"""How ability changes between answers: learning in steps, and time without practice.

Both convolve a topic's marginal with a kernel and divide the cavity out again, so that the
change stays in the topic's own row. The constants are judgements, kept in `ChangeSettings`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.special import logsumexp

from .grid import NODES, STEP, Array, moments
from .posterior import LearnerState, Posterior, Prior


@dataclass(frozen=True, slots=True)
class ChangeSettings:
    """Judgements about change. Means, sds and jumps in logits, variance in logits² per day."""

    drift_sd: float = 0.05
    jump_chance: float = 0.034
    jump_mean: float = 1.2
    jump_sd: float = 0.6
    variance_per_day: float = 0.01


def _gaussian_weights(mean: float, variance: float) -> Array:
    """Masses of N(mean, variance) over the offsets between nodes. Shape (2·NODES - 1,).

    A Gaussian narrower than the grid is replaced by three masses with the same variance.
    """
    offsets = STEP * np.arange(-(NODES - 1), NODES)
    if variance < 0.5 * STEP * STEP and mean == 0.0:
        weights = np.zeros(len(offsets))
        side = variance / (2 * STEP * STEP)
        weights[NODES - 2 : NODES + 1] = (side, 1 - 2 * side, side)
        return weights
    weights = np.exp(-0.5 * (offsets - mean) ** 2 / variance)
    return np.asarray(weights / weights.sum())


def _log_kernel(weights: Array) -> Array:
    """Log chance of moving to node i from node j. Shape (NODES, NODES); columns sum to 1."""
    index = np.arange(NODES)
    kernel = weights[(index[:, None] - index[None, :]) + NODES - 1]
    with np.errstate(divide="ignore"):
        return np.asarray(np.log(kernel / kernel.sum(axis=0, keepdims=True)))


@lru_cache(maxsize=8)
def learning_kernel(settings: ChangeSettings) -> Array:
    """Log kernel of one learning opportunity: a small drift and, rarely, a step up."""
    drift = _gaussian_weights(0.0, settings.drift_sd**2)
    jump = _gaussian_weights(settings.jump_mean, settings.jump_sd**2)
    kernel = _log_kernel((1 - settings.jump_chance) * drift + settings.jump_chance * jump)
    kernel.setflags(write=False)
    return kernel


def _moved_row(posterior: Posterior, row: Array, topic: int, log_kernel: Array) -> Array:
    """The topic's row after its marginal moved by a kernel. In logs, so tails do not vanish."""
    log_marginal = posterior.cavity_log[topic] + row
    log_moved = logsumexp(log_kernel + (log_marginal - log_marginal.max())[None, :], axis=1)
    return np.asarray(log_moved - posterior.cavity_log[topic])


def learning_step(
    state: LearnerState, posterior: Posterior, topic: int, settings: ChangeSettings
) -> LearnerState:
    """State after one learning opportunity in `topic`; `posterior` must be that of `state`."""
    row = _moved_row(posterior, state.rows[topic], topic, learning_kernel(settings))
    return state.with_row(topic, row)


def after_learning(mass: Array, opportunities: int, settings: ChangeSettings) -> Array:
    """A marginal (NODES,) after a number of learning opportunities, evidence aside."""
    kernel = np.exp(learning_kernel(settings))
    for _ in range(opportunities):
        mass = kernel @ mass
    return np.asarray(mass / mass.sum())


def time_step(
    prior: Prior, state: LearnerState, posterior: Posterior, days: float, settings: ChangeSettings
) -> LearnerState:
    """State after `days` (not negative) without answers, for every topic with a history.

    Adds at most as much variance as keeps each marginal within the prior's.
    """
    room = np.diagonal(prior.covariance) - moments(posterior.marginals)[1]
    added = np.minimum(settings.variance_per_day * days, room)
    for topic in np.flatnonzero(np.any(state.rows != 0.0, axis=1)):
        if added[topic] <= 1e-9:
            continue
        kernel = _log_kernel(_gaussian_weights(0.0, float(added[topic])))
        row = _moved_row(posterior, state.rows[topic], int(topic), kernel)
        state = state.with_row(int(topic), row)
    return state
