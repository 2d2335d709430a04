"""How ability changes between answers: learning in steps, and time without practice.

Both are changes of the learner and not news about them: a topic's marginal is convolved with a
kernel, and no other topic may move. So the learner's own base Gaussian takes up what mean and
variance gained, with every covariance left as it was; the topic's row and site are expressed anew
against a cavity that moved in the same way. The constants are judgements, in `ChangeSettings`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .grid import NODES, STEP, THETA, Array, moments
from .posterior import Prior
from .sweeps import Joint, tilted_weights

LEAST_DENSITY = 1e-290
LEAST_ADDED = 1e-9
MOST_TAKEN = 0.9


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


def _kernel(weights: Array) -> Array:
    """Chance of moving to node i from node j. Shape (NODES, NODES); columns sum to 1."""
    index = np.arange(NODES)
    kernel = weights[(index[:, None] - index[None, :]) + NODES - 1]
    return np.asarray(kernel / kernel.sum(axis=0, keepdims=True))


@lru_cache(maxsize=8)
def learning_kernel(settings: ChangeSettings) -> Array:
    """Return the kernel of one learning opportunity: a small drift and, rarely, a step up."""
    drift = _gaussian_weights(0.0, settings.drift_sd**2)
    jump = _gaussian_weights(settings.jump_mean, settings.jump_sd**2)
    kernel = _kernel((1 - settings.jump_chance) * drift + settings.jump_chance * jump)
    kernel.setflags(write=False)
    return kernel


@lru_cache(maxsize=32)
def time_kernel(days: float, settings: ChangeSettings) -> Array:
    """Return the kernel of some days (0 or more) without an answer."""
    kernel = _kernel(_gaussian_weights(0.0, settings.variance_per_day * days))
    kernel.setflags(write=False)
    return kernel


@dataclass(frozen=True, slots=True)
class _Moved:
    """Some marginals after a change: rows (n, NODES), the cavities they stand against, and what
    mean and variance gained. All else (n,)."""

    rows: Array
    cavity_precision: Array
    cavity_shift: Array
    mean: Array
    variance: Array


def _moved(
    kernel: Array, rows: Array, precision: Array, shift: Array, conditional: Array
) -> _Moved:
    """Marginals moved by a kernel, and expressed as row and cavity again.

    rows (n, NODES); precision, shift (n,) of their cavities; conditional (n,): variance of the
    topic when all others are known, of which a change at the grid's end takes away nine tenths at
    the most. Where a density is below 1e-290 it is taken as that, so that no logarithm is of 0.
    """
    before = tilted_weights(rows, precision, shift)
    before /= before.sum(axis=1, keepdims=True)
    after = before @ kernel.T
    (old_mean, old_variance), (new_mean, new_variance) = moments(before), moments(after)
    mean = new_mean - old_mean
    variance = np.maximum(new_variance - old_variance, -MOST_TAKEN * conditional)
    width = np.maximum(1.0 / precision + variance, (1 - MOST_TAKEN) / precision)
    cavity_precision = 1.0 / width
    cavity_shift = (shift / precision + mean) * cavity_precision
    outside = cavity_shift[:, None] * THETA - 0.5 * cavity_precision[:, None] * THETA**2
    found = np.log(np.maximum(after, LEAST_DENSITY)) - outside
    found -= found.max(axis=1, keepdims=True)
    return _Moved(found, cavity_precision, cavity_shift, mean, variance)


@dataclass(slots=True)
class Believed:
    """Learners side by side, B of K topics, where the sweeps settled.

    rows (B, K, NODES), sites (B, 2K), precision (B, K, K) and shift (B, K) of the base Gaussians,
    variance (K,) of the prior. Changed in place.
    """

    rows: Array
    sites: Array
    precision: Array
    shift: Array
    variance: Array


def _rebase(believed: Believed, who: NDArray[np.intp], joint: Joint, precision: Array) -> None:
    """Give learners `who` the base that, with their sites, makes the global Gaussian of `joint`,
    whose precision is given (n, K, K)."""
    size = precision.shape[-1]
    mean = joint.mean
    own = 1.0 / np.diagonal(joint.covariance, axis1=1, axis2=2)
    sites = np.concatenate([own - joint.cavity_precision, mean * own - joint.cavity_shift], axis=1)
    sites *= np.tile(np.any(believed.rows[who], axis=-1), 2)
    base = precision.copy()
    index = np.arange(size)
    base[:, index, index] -= sites[:, :size]
    joint.sites = sites
    believed.sites[who] = sites
    believed.precision[who] = base
    believed.shift[who] = (precision @ mean[..., None])[..., 0] - sites[:, size:]


def _global_precision(believed: Believed, who: NDArray[np.intp], joint: Joint) -> Array:
    size = joint.covariance.shape[-1]
    precision = believed.precision[who]
    index = np.arange(size)
    precision[:, index, index] += joint.sites[:, :size]
    return precision


def learn(
    believed: Believed,
    who: NDArray[np.intp],
    topics: NDArray[np.intp],
    joint: Joint,
    settings: ChangeSettings,
) -> None:
    """Apply one learning opportunity to the learners `who` (n,), each in one of `topics` (n,).
    Changes `believed` and `joint` in place.

    joint: of these learners, converged. It moves along, so nothing has to be swept again. Every
    other marginal and every covariance between two topics stays as it was.
    """
    precision = _global_precision(believed, who, joint)
    one = np.arange(len(who))
    own = precision[one, topics, topics]
    moved = _moved(
        learning_kernel(settings),
        believed.rows[who, topics],
        joint.cavity_precision[one, topics],
        joint.cavity_shift[one, topics],
        1.0 / own,
    )
    column = precision[one, topics]
    factor = moved.variance / (1.0 + moved.variance * own)
    precision -= factor[:, None, None] * column[:, :, None] * column[:, None, :]
    joint.covariance[one, topics, topics] += moved.variance
    joint.mean[one, topics] += moved.mean
    joint.cavity_precision[one, topics] = moved.cavity_precision
    joint.cavity_shift[one, topics] = moved.cavity_shift
    believed.rows[who, topics] = moved.rows
    _rebase(believed, who, joint, precision)


def age(
    prior: Prior,
    believed: Believed,
    learner: int,
    joint: Joint,
    days: float,
    settings: ChangeSettings,
) -> None:
    """Apply `days` (0 or more) without answers to one learner, in every topic at once. Changes
    `believed` and `joint` in place.

    joint: of this learner alone, converged; it moves along. Variance grows at most to the prior's;
    no mean moves.
    """
    rows = believed.rows[learner]
    weights = tilted_weights(rows, joint.cavity_precision[0], joint.cavity_shift[0])
    _, variance = moments(weights / weights.sum(axis=1, keepdims=True))
    room = np.diagonal(prior.covariance) - variance
    added = np.clip(room, 0.0, settings.variance_per_day * days)
    active = np.any(rows, axis=-1)
    cavity_precision, cavity_shift = joint.cavity_precision[0], joint.cavity_shift[0]
    mean, gained = joint.mean[0], added.copy()
    for amount in np.unique(added[active & (added > LEAST_ADDED)]):
        topics = np.flatnonzero(active & (added == amount))
        moved = _moved(
            _kernel(_gaussian_weights(0.0, float(amount))),
            rows[topics],
            cavity_precision[topics],
            cavity_shift[topics],
            np.full(len(topics), amount),
        )
        rows[topics] = moved.rows
        cavity_precision[topics] = moved.cavity_precision
        cavity_shift[topics] = moved.cavity_shift
        mean[topics] += moved.mean
        gained[topics] = moved.variance
    size = len(rows)
    joint.covariance[0, np.arange(size), np.arange(size)] += gained
    untouched = ~active
    cavity_precision[untouched] = 1.0 / np.diagonal(joint.covariance[0])[untouched]
    cavity_shift[untouched] = mean[untouched] * cavity_precision[untouched]
    precision = np.asarray(np.linalg.inv(joint.covariance))
    _rebase(believed, np.array([learner]), joint, 0.5 * (precision + np.swapaxes(precision, 1, 2)))
