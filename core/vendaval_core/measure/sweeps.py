"""Block expectation propagation (Minka 2001) for a batch of learners at once.

A learner is a base Gaussian and a row of log evidence per topic on the grid; one Gaussian site per
topic stands for the row. One learner is a batch of one: the application and a mass rebuild run the
same code.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.linalg.lapack import dpotrf, dpotri

from .grid import THETA, Array

# What has not settled by then goes in a circle: it is done again, damped by a half.
SWEEPS = 200
DAMPING = 0.5
TOLERANCE = 3e-5
LEAST_PRECISION = 1e-6
LEAST_STEP = 1e-6
WORSE = 2.0
TINY = 1e-300

_POWERS: Array = np.stack([np.ones_like(THETA), THETA, THETA * THETA], axis=1)
_EXPONENT: Array = np.stack([THETA, -0.5 * THETA * THETA])


@dataclass(frozen=True, slots=True)
class Gaussian:
    """Gaussians over K topics, one for all learners or one each.

    precision (K, K) or (B, K, K). shift = precision · mean, (K,) or (B, K). variance (K,): of the
    course's prior, which stands in for a cavity that has none of its own.
    """

    precision: Array
    shift: Array
    variance: Array


@dataclass(slots=True)
class Joint:
    """Where the sweeps ended, for B learners and K topics.

    sites (B, 2K): precisions and then shifts of the Gaussian sites. mean (B, K), covariance
    (B, K, K): of the global Gaussian. cavity_precision, cavity_shift (B, K): what the prior and all
    other topics say about each. converged (B,).
    """

    sites: Array
    mean: Array
    covariance: Array
    cavity_precision: Array
    cavity_shift: Array
    converged: NDArray[np.bool_]

    def part(self, which: NDArray[np.intp]) -> Joint:
        """Some of the learners, in arrays of their own."""
        return Joint(
            self.sites[which],
            self.mean[which],
            self.covariance[which],
            self.cavity_precision[which],
            self.cavity_shift[which],
            self.converged[which],
        )

    def put(self, where: NDArray[np.int64], found: Joint, which: NDArray[np.bool_]) -> None:
        """Take over the learners `which` of another joint, to the places `where`."""
        self.sites[where] = found.sites[which]
        self.mean[where] = found.mean[which]
        self.covariance[where] = found.covariance[which]
        self.cavity_precision[where] = found.cavity_precision[which]
        self.cavity_shift[where] = found.cavity_shift[which]
        self.converged[where] = found.converged[which]


def tilted_weights(rows: Array, precision: Array, shift: Array) -> Array:
    """Return cavity times row at each node, not normalised: the greatest value is 1. Shape (..., K,
    NODES).

    rows (..., K, NODES); precision, shift (..., K): of the cavities.
    """
    cavity = np.empty((*precision.shape, 2))
    cavity[..., 0] = shift
    cavity[..., 1] = precision
    logs = cavity @ _EXPONENT
    logs += rows
    logs -= logs.max(axis=-1, keepdims=True)
    return np.asarray(np.exp(logs, out=logs))


def _inverses(precision: Array, negative: bool) -> Array | None:
    """Inverses of symmetric (B, K, K) matrices, None when one is not positive definite.

    negative: whether that can be. For one matrix LAPACK is called directly, which saves more than
    it costs in numpy's checks.
    """
    if len(precision) == 1 and precision.size:
        factor, failed = dpotrf(precision[0])
        if failed:
            return None
        upper = dpotri(factor, overwrite_c=1)[0]
        whole = upper + upper.T
        whole.ravel()[:: len(whole) + 1] *= 0.5
        return np.asarray(whole[None])
    if negative:
        try:
            np.linalg.cholesky(precision)
        except np.linalg.LinAlgError:
            return None
    return np.asarray(np.linalg.inv(precision))


def _diagonals(matrices: Array) -> Array:
    """View of the diagonals of contiguous (B, K, K) matrices. Shape (B, K)."""
    size = matrices.shape[-1]
    return matrices.reshape(len(matrices), size * size)[:, :: size + 1]


class _Batch:
    """The learners still being swept, with the memory that the acceleration needs."""

    def __init__(self, base: Gaussian, rows: Array, sites: Array, damping: float) -> None:
        self.topics = rows.shape[1]
        learners, size = len(rows), self.topics
        self.precision = np.broadcast_to(base.precision, (learners, size, size))
        self.shift = np.broadcast_to(base.shift, (learners, size))
        self.variance = base.variance
        self.damping = damping
        self.rows = rows
        active = np.any(rows, axis=-1)
        self.active = np.concatenate([active, active], axis=1)
        self.sites = sites * self.active
        self.step = np.zeros_like(sites)
        self.residual: Array | None = None
        self.change = np.full(len(rows), np.inf)

    def keep(self, left: NDArray[np.bool_]) -> None:
        """Go on with some of the learners."""
        self.rows, self.active, self.sites = self.rows[left], self.active[left], self.sites[left]
        self.step, self.change = self.step[left], self.change[left]
        self.precision, self.shift = self.precision[left], self.shift[left]
        assert self.residual is not None
        self.residual = self.residual[left]

    def _globals(self) -> Array:
        """Covariances of the global Gaussians; a step that leaves one improper is halved."""
        own = self.sites[:, : self.topics]
        precision = self.precision.copy()
        diagonals = _diagonals(precision)
        diagonals += own
        found = _inverses(precision, bool(own.min(initial=0.0) < 0))
        if found is not None:
            return found
        for learner, sites in enumerate(self.sites):
            while _inverses(precision[learner : learner + 1], True) is None:
                self.step[learner] *= 0.5
                sites -= self.step[learner]
                if np.abs(self.step[learner]).max() < LEAST_STEP:
                    sites[...] = 0.0
                diagonals[learner] = np.diagonal(self.precision[learner]) + sites[: self.topics]
        return np.asarray(np.linalg.inv(precision))

    def sweep(self) -> Joint:
        """One parallel sweep: global Gaussian, cavities, tilted moments; then a step."""
        covariance = self._globals()
        sites, size = self.sites, self.topics
        site_precision, site_shift = sites[:, :size], sites[:, size:]
        mean = (covariance @ (self.shift + site_shift)[..., None])[..., 0]
        precision = 1.0 / _diagonals(covariance)
        shift = mean * precision
        precision -= site_precision
        shift -= site_shift
        if precision.min(initial=LEAST_PRECISION) < LEAST_PRECISION:
            bad = precision < LEAST_PRECISION
            precision = np.where(bad, 1.0 / self.variance, precision)
            shift = np.where(bad, mean * precision, shift)
        sums = tilted_weights(self.rows, precision, shift) @ _POWERS
        scale = 1.0 / sums[..., 0]
        tilted_mean = sums[..., 1] * scale
        tilted_variance = np.maximum(sums[..., 2] * scale - tilted_mean * tilted_mean, 1e-12)
        residual = np.empty_like(sites)
        wanted_precision, wanted_shift = residual[:, :size], residual[:, size:]
        np.divide(1.0, tilted_variance, out=wanted_precision)
        np.multiply(tilted_mean, wanted_precision, out=wanted_shift)
        wanted_precision -= precision
        wanted_shift -= shift
        residual -= sites
        residual *= self.active
        change: Array = np.abs(residual).max(axis=1, initial=0.0)
        joint = Joint(sites, mean, covariance, precision, shift, change < TOLERANCE)
        self._accelerate(residual, change)
        return joint

    def _accelerate(self, residual: Array, change: Array) -> None:
        """The next sites: a step of Anderson's method (1965) with a memory of one.

        Without it a few states with sites that work against each other take over a hundred
        sweeps. A learner whose last step made things worse starts afresh from a plain one.
        """
        step = residual
        if self.damping < 1.0:
            step = self.damping * residual
        elif self.residual is not None:
            difference = residual - self.residual
            share = np.vecdot(difference, residual) / (np.vecdot(difference, difference) + TINY)
            share *= change <= WORSE * self.change
            difference += self.step
            difference *= share[:, None]
            step = residual - difference
        self.residual, self.step, self.change = residual, step, change
        self.sites = self.sites + step


def converge(base: Gaussian, rows: Array, sites: Array, damping: float = 1.0) -> Joint:
    """Sweep until no site's precision or shift moves by 3e-5 or more.

    base: the Gaussian without the rows. rows (B, K, NODES): log evidence. sites (B, 2K): where to
    start; never clipped. damping: share of each step that is taken; below 1, plain steps without
    acceleration. `Joint.converged` says who did not converge. Cost per sweep and learner: K·NODES +
    K³.
    """
    batch = _Batch(base, rows, sites, damping)
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


def converge_damped(base: Gaussian, rows: Array, sites: Array) -> Joint:
    """Like `converge`, repeated with damping for the learners who did not converge."""
    joint = converge(base, rows, sites)
    if joint.converged.all():
        return joint
    again = np.flatnonzero(~joint.converged)
    learners, size = rows.shape[:2]
    own = Gaussian(
        np.broadcast_to(base.precision, (learners, size, size))[again],
        np.broadcast_to(base.shift, (learners, size))[again],
        base.variance,
    )
    found = converge(own, rows[again], np.zeros((len(again), 2 * size)), DAMPING)
    joint.put(again, found, np.ones(len(again), dtype=bool))
    return joint
