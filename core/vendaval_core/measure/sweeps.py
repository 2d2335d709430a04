"""Block expectation propagation (Minka 2001) for a batch of learners at once.

A learner is a row of log evidence per topic on the grid; one Gaussian site per topic stands for
it. One learner is a batch of one: the application and a mass rebuild run the same code.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .grid import THETA, Array

SWEEPS = 200
TOLERANCE = 1e-11
LEAST_PRECISION = 1e-6
LEAST_STEP = 1e-6
WORSE = 2.0

_POWERS: Array = np.stack([np.ones_like(THETA), THETA, THETA * THETA], axis=1)
_EXPONENT: Array = np.stack([THETA, -0.5 * THETA * THETA])


@dataclass(frozen=True, slots=True)
class Gaussian:
    """A Gaussian over K topics: precision (K, K), shift = precision · mean (K,), variance (K,)."""

    precision: Array
    shift: Array
    variance: Array


@dataclass(slots=True)
class Joint:
    """Where the sweeps ended, for B learners and K topics.

    sites (B, 2, K): precision and shift of the Gaussian sites. covariance (B, K, K): of the global
    Gaussian. cavity (B, 2, K): shift and precision of what the prior and all other topics say
    about each. converged (B,).
    """

    sites: Array
    covariance: Array
    cavity: Array
    converged: NDArray[np.bool_]

    def put(self, where: NDArray[np.int64], found: Joint, which: NDArray[np.bool_]) -> None:
        """Take over the learners `which` of another joint, to the places `where`."""
        self.sites[where] = found.sites[which]
        self.covariance[where] = found.covariance[which]
        self.cavity[where] = found.cavity[which]
        self.converged[where] = found.converged[which]


def tilted_weights(rows: Array, cavity: Array) -> Array:
    """Cavity times row at each node, greatest value 1, not normalised. Shape (..., K, NODES).

    rows (..., K, NODES); cavity (..., 2, K).
    """
    logs = np.swapaxes(cavity, -1, -2) @ _EXPONENT
    logs += rows
    logs -= logs.max(axis=-1, keepdims=True)
    return np.asarray(np.exp(logs, out=logs))


def _is_proper(matrices: Array) -> bool:
    try:
        np.linalg.cholesky(matrices)
    except np.linalg.LinAlgError:
        return False
    return True


def _diagonals(matrices: Array) -> Array:
    """View of the diagonals of contiguous (B, K, K) matrices. Shape (B, K)."""
    size = matrices.shape[-1]
    return matrices.reshape(len(matrices), size * size)[:, :: size + 1]


class _Batch:
    """The learners still being swept, with the memory that the acceleration needs."""

    def __init__(self, prior: Gaussian, rows: Array, sites: Array) -> None:
        self.prior = prior
        self.rows = rows
        self.active = rows.any(axis=-1)
        self.sites = sites * self.active[:, None, :]
        self.step = np.zeros_like(sites)
        self.residual: Array | None = None
        self.change = np.full(len(rows), np.inf)

    def keep(self, left: NDArray[np.bool_]) -> None:
        """Go on with some of the learners."""
        self.rows, self.active, self.sites = self.rows[left], self.active[left], self.sites[left]
        self.step, self.change = self.step[left], self.change[left]
        assert self.residual is not None
        self.residual = self.residual[left]

    def _globals(self) -> Array:
        """Covariances of the global Gaussians; a step that leaves one improper is halved."""
        precision = np.repeat(self.prior.precision[None], len(self.rows), axis=0)
        diagonals = _diagonals(precision)
        diagonals += self.sites[:, 0]
        if self.sites[:, 0].min() < 0 and not _is_proper(precision):
            for learner, sites in enumerate(self.sites):
                while not _is_proper(precision[learner]):
                    self.step[learner] *= 0.5
                    sites -= self.step[learner]
                    if np.abs(self.step[learner]).max() < LEAST_STEP:
                        sites[...] = 0.0
                    diagonals[learner] = np.diagonal(self.prior.precision) + sites[0]
        return np.asarray(np.linalg.inv(precision))

    def sweep(self) -> Joint:
        """One parallel sweep: global Gaussian, cavities, tilted moments; then a step."""
        covariance = self._globals()
        sites = self.sites
        mean = (covariance @ (self.prior.shift + sites[:, 1])[..., None])[..., 0]
        variance = _diagonals(covariance)
        cavity = np.empty_like(sites)
        np.divide(1.0, variance, out=cavity[:, 1])
        np.multiply(mean, cavity[:, 1], out=cavity[:, 0])
        cavity -= sites[:, ::-1]
        if cavity[:, 1].min() < LEAST_PRECISION:
            bad = cavity[:, 1] < LEAST_PRECISION
            cavity[:, 1] = np.where(bad, 1.0 / self.prior.variance, cavity[:, 1])
            cavity[:, 0] = np.where(bad, mean * cavity[:, 1], cavity[:, 0])
        sums = tilted_weights(self.rows, cavity) @ _POWERS
        sums /= sums[..., :1]
        tilted_mean = sums[..., 1]
        tilted_variance = np.maximum(sums[..., 2] - tilted_mean * tilted_mean, 1e-12)
        residual = np.empty_like(sites)
        np.divide(1.0, tilted_variance, out=residual[:, 0])
        np.multiply(tilted_mean, residual[:, 0], out=residual[:, 1])
        residual -= cavity[:, ::-1]
        residual -= sites
        residual *= self.active[:, None, :]
        moved = np.abs(tilted_mean - mean)
        moved += np.abs(tilted_variance - variance)
        moved *= self.active
        change = moved.max(axis=1)
        joint = Joint(sites, covariance, cavity, change < TOLERANCE)
        self._accelerate(residual, change)
        return joint

    def _accelerate(self, residual: Array, change: Array) -> None:
        """The next sites: a step of Anderson's method (1965) with a memory of one.

        Without it a few states with sites that work against each other take over a hundred
        sweeps. A learner whose last step made things worse starts afresh from a plain one.
        """
        step = residual
        if self.residual is not None:
            difference = residual - self.residual
            flat = difference.reshape(len(difference), -1)
            share = np.vecdot(flat, residual.reshape(flat.shape))
            share /= np.maximum(np.vecdot(flat, flat), 1e-300)
            share[change > WORSE * self.change] = 0.0
            step = residual - share[:, None, None] * (self.step + difference)
        self.residual, self.step, self.change = residual, step, change
        self.sites = self.sites + step


def settle(prior: Gaussian, rows: Array, sites: Array) -> Joint:
    """Sweep until every learner's means (logits) and variances (logits²) move by less than 1e-11.

    rows (B, K, NODES): log evidence. sites (B, 2, K): where to start. Sites are never clipped.
    Cost per sweep and learner: K·NODES + K³.
    """
    batch = _Batch(prior, rows, sites)
    todo = np.arange(len(rows))
    whole: Joint | None = None
    for turn in range(SWEEPS):
        joint = batch.sweep()
        done = joint.converged
        if done.all() or turn == SWEEPS - 1:
            if whole is None:
                return joint
            whole.put(todo, joint, np.ones(len(todo), dtype=bool))
            return whole
        if done.any():
            if whole is None:
                whole = joint
            else:
                whole.put(todo[done], joint, done)
            todo = todo[~done]
            batch.keep(~done)
    raise AssertionError("the last sweep returns")
