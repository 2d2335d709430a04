"""How ability changes between answers: learning in steps, and time without practice.

Both are changes of the learner and not news about them: a topic's marginal is convolved with a
kernel, and no other topic may move. So the learner's own base Gaussian takes up what mean and
variance gained, with every covariance left as it was; the topic's row and site are expressed anew
against a cavity that moved in the same way. The kernels are the learner's own: averaged over the
paces of learning and forgetting that they may have (`measure/rates.py`).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .grid import THETA, Array, moments
from .kernels import ChangeSettings, gaussian_weights, kernel_of, lapse_kernel, learning_kernels
from .posterior import Prior
from .sweeps import Joint, tilted_weights

LEAST_DENSITY = 1e-290
LEAST_ADDED = 1e-9
MOST_TAKEN = 0.9


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
    move: Callable[[Array], Array], rows: Array, precision: Array, shift: Array, conditional: Array
) -> _Moved:
    """Marginals moved, and expressed as row and cavity again.

    move: masses (n, NODES) before to masses after. rows (n, NODES); precision, shift (n,) of their
    cavities; conditional (n,): variance of the topic when all others are known, of which a change
    at the grid's end takes away nine tenths at the most. Where a density is below 1e-290 it is
    taken as that, so that no logarithm is of 0.
    """
    before = tilted_weights(rows, precision, shift)
    before /= before.sum(axis=1, keepdims=True)
    after = move(before)
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


@dataclass(frozen=True, slots=True)
class Away:
    """What time without answers does. days: since the last one. fallen (K,): by how much each topic
    has been forgotten in them, logits; spread (K,): variance of that."""

    days: float
    fallen: Array
    spread: Array


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


def move_topics(
    believed: Believed,
    who: NDArray[np.intp],
    topics: NDArray[np.intp],
    joint: Joint,
    move: Callable[[Array], Array],
) -> None:
    """Change the learners `who` (n,), each in one of `topics` (n,). Changes `believed` and `joint`
    in place.

    joint: of these learners, converged. It moves along, so nothing has to be swept again. move:
    masses (n, NODES) before to masses after. Every other marginal and every covariance between two
    topics stays as it was.
    """
    precision = _global_precision(believed, who, joint)
    one = np.arange(len(who))
    own = precision[one, topics, topics]
    moved = _moved(
        move,
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


def learning(paces: Array, settings: ChangeSettings) -> Callable[[Array], Array]:
    """What one opportunity to learn does. paces (n,): expected of each learner."""
    drift, jump = learning_kernels(settings)
    chance = (settings.jump_chance * paces)[:, None]
    return lambda before: (1 - chance) * (before @ drift.T) + chance * (before @ jump.T)


def lapsing(chances: Array, settings: ChangeSettings) -> Callable[[Array], Array]:
    """What may have been lost of a topic by the time it is checked. chances (n,): of each learner
    that it was."""
    lapse, chance = lapse_kernel(settings), chances[:, None]
    return lambda before: (1 - chance) * before + chance * (before @ lapse.T)


def age(
    prior: Prior,
    believed: Believed,
    learner: int,
    joint: Joint,
    time: Away,
    settings: ChangeSettings,
) -> None:
    """Apply days without answers to one learner, in every topic at once. Changes `believed` and
    `joint` in place.

    joint: of this learner alone, converged; it moves along. What is forgotten moves means down and,
    as its pace is not known, widens. The variance that time adds by itself brings none above the
    prior's.
    """
    rows = believed.rows[learner]
    size = len(rows)
    weights = tilted_weights(rows, joint.cavity_precision[0], joint.cavity_shift[0])
    _, variance = moments(weights / weights.sum(axis=1, keepdims=True))
    room = np.maximum(np.diagonal(prior.covariance) - variance, 0.0)
    added = np.minimum(room, settings.variance_per_day * time.days)
    gained = added + time.spread
    own = np.diagonal(_global_precision(believed, np.array([learner]), joint)[0])
    active = np.any(rows, axis=-1)
    cavity_precision, cavity_shift = joint.cavity_precision[0], joint.cavity_shift[0]
    mean = joint.mean[0]
    mean[~active] -= time.fallen[~active]
    changes = np.stack([time.fallen, gained], axis=1)
    moving = active & (gained + np.abs(time.fallen) > LEAST_ADDED)
    for change in np.unique(changes[moving], axis=0):
        topics = np.flatnonzero(moving & np.all(changes == change, axis=1))
        kernel = kernel_of(gaussian_weights(-float(change[0]), float(change[1])))
        moved = _moved(
            lambda before, kernel=kernel: before @ kernel.T,  # type: ignore[misc]
            rows[topics],
            cavity_precision[topics],
            cavity_shift[topics],
            1.0 / own[topics],
        )
        rows[topics] = moved.rows
        cavity_precision[topics] = moved.cavity_precision
        cavity_shift[topics] = moved.cavity_shift
        mean[topics] += moved.mean
        gained[topics] = moved.variance
    joint.covariance[0, np.arange(size), np.arange(size)] += gained
    untouched = ~active
    cavity_precision[untouched] = 1.0 / np.diagonal(joint.covariance[0])[untouched]
    cavity_shift[untouched] = mean[untouched] * cavity_precision[untouched]
    precision = np.asarray(np.linalg.inv(joint.covariance))
    _rebase(believed, np.array([learner]), joint, 0.5 * (precision + np.swapaxes(precision, 1, 2)))
