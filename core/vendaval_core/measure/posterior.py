"""A learner's state over correlated topics, and the posterior by expectation propagation.

The state is a Gaussian prior and one row of log evidence per topic on the grid. One Gaussian
site per topic stands for its row; block expectation propagation (Minka 2001) finds the sites.
Source and bars: docs/measurement.md, "Posterior".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import OutOfRange
from .grid import NODES, THETA, Array, moments, normalised

MOST_SD = 1.5
MOST_CORRELATION = 0.9
SWEEPS = 200
TOLERANCE = 1e-8


@dataclass(frozen=True, slots=True)
class Prior:
    """Ability over K topics before any answer: mean (K,) in logits, covariance (K, K)."""

    mean: Array
    covariance: Array
    precision: Array

    @classmethod
    def of(cls, mean: Array, covariance: Array) -> Prior:
        """Prior from its moments. OutOfRange when shapes differ or it is not positive definite."""
        if covariance.shape != (len(mean), len(mean)):
            raise OutOfRange("prior mean and covariance have different sizes")
        if np.linalg.eigvalsh(covariance)[0] <= 1e-9:
            raise OutOfRange("prior covariance is not positive definite")
        return cls(mean, covariance, np.asarray(np.linalg.inv(covariance), dtype=np.float64))

    @classmethod
    def of_course(
        cls, subjects: Sequence[int], *, mean: float, sd: float, within: float, across: float
    ) -> Prior:
        """Prior of a course: `subjects` gives each topic's subject number.

        sd in logits, capped at 1.5; correlations within a subject and across, capped at 0.9.
        """
        group = np.asarray(subjects)
        within, across = (
            float(np.clip(r, -MOST_CORRELATION, MOST_CORRELATION)) for r in (within, across)
        )
        correlation = np.where(group[:, None] == group[None, :], within, across)
        np.fill_diagonal(correlation, 1.0)
        return cls.of(np.full(len(group), mean), min(sd, MOST_SD) ** 2 * correlation)

    @property
    def size(self) -> int:
        """Number of topics K."""
        return len(self.mean)


@dataclass(frozen=True, slots=True)
class LearnerState:
    """Everything the answers have said so far.

    rows: (K, NODES) log evidence per topic. precision, shift: (K,) natural parameters of the
    Gaussian sites, kept so that the next update starts warm.
    """

    rows: Array
    precision: Array
    shift: Array

    @classmethod
    def empty(cls, topics: int) -> LearnerState:
        """State of a learner who has not answered anything."""
        return cls(np.zeros((topics, NODES)), np.zeros(topics), np.zeros(topics))

    def with_row(self, topic: int, row: Array) -> LearnerState:
        """The state with another row for one topic, scaled so that its greatest value is 0."""
        rows = self.rows.copy()
        rows[topic] = row - row.max()
        return replace(self, rows=rows)

    def with_evidence(self, topic: int, log_likelihood: Array, weight: float) -> LearnerState:
        """The state after one outcome in `topic`, counted with `weight` (0 to 1)."""
        return self.with_row(topic, self.rows[topic] + weight * log_likelihood)


@dataclass(frozen=True, slots=True)
class Posterior:
    """What is believed about one learner.

    mean, sd: (K,) of the tilted marginals, logits. covariance: (K, K) Gaussian approximation.
    marginals: (K, NODES) tilted marginals as masses. cavity_log: (K, NODES) log density of all
    that other topics and the prior say about each topic. converged: the sweeps settled.
    """

    mean: Array
    sd: Array
    covariance: Array
    marginals: Array
    cavity_log: Array
    converged: bool


@dataclass(slots=True)
class _Sweep:
    mean: Array
    covariance: Array
    marginals: Array
    cavity_log: Array
    site_precision: Array
    site_shift: Array
    change: float


def _sweep(prior: Prior, rows: Array, precision: Array, shift: Array, active: Array) -> _Sweep:
    """One parallel sweep: global Gaussian, cavities, tilted moments and the sites they ask for."""
    covariance: Array = np.asarray(np.linalg.inv(prior.precision + np.diag(precision)), np.float64)
    mean = covariance @ (prior.precision @ prior.mean + shift)
    variance = np.diagonal(covariance)
    cavity_precision = 1.0 / variance - precision
    usable = cavity_precision > 1e-6
    cavity_precision = np.where(usable, cavity_precision, 1.0 / np.diagonal(prior.covariance))
    cavity_mean = np.where(usable, (mean / variance - shift) / cavity_precision, mean)
    cavity_log = -0.5 * cavity_precision[:, None] * (THETA[None, :] - cavity_mean[:, None]) ** 2
    marginals = normalised(cavity_log + rows)
    tilted_mean, tilted_variance = moments(marginals)
    wanted_precision = np.where(active, 1.0 / tilted_variance - cavity_precision, 0.0)
    wanted_shift = np.where(
        active, tilted_mean / tilted_variance - cavity_precision * cavity_mean, 0.0
    )
    change = np.max(
        np.where(
            active,
            np.abs(tilted_mean - mean) + np.abs(tilted_variance - variance),
            0.0,
        ),
        initial=0.0,
    )
    return _Sweep(
        mean, covariance, marginals, cavity_log, wanted_precision, wanted_shift, float(change)
    )


def _is_proper(prior: Prior, precision: Array) -> bool:
    try:
        np.linalg.cholesky(prior.precision + np.diag(precision))
    except np.linalg.LinAlgError:
        return False
    return True


def infer(prior: Prior, state: LearnerState) -> tuple[Posterior, LearnerState]:
    """Posterior of a state, and the state with the sites found (a warm start for the next).

    Sweeps until means (logits) and variances (logits²) move by less than 1e-8, halving the
    step whenever a sweep does not bring them closer. Cost per sweep: K·NODES + K³.
    """
    active = np.any(state.rows != 0.0, axis=1)
    precision = np.where(active, state.precision, 0.0)
    shift = np.where(active, state.shift, 0.0)
    damping, last = 1.0, np.inf
    sweep = _sweep(prior, state.rows, precision, shift, active)
    for _ in range(SWEEPS):
        if sweep.change < TOLERANCE:
            break
        if sweep.change >= last:
            damping = max(0.5 * damping, 0.05)
        last = sweep.change
        step = damping
        proposed = precision + step * (sweep.site_precision - precision)
        while not _is_proper(prior, proposed) and step > 1e-6:
            step *= 0.5
            proposed = precision + step * (sweep.site_precision - precision)
        precision = proposed
        shift = shift + step * (sweep.site_shift - shift)
        sweep = _sweep(prior, state.rows, precision, shift, active)
    mean, variance = moments(sweep.marginals)
    posterior = Posterior(
        mean,
        np.sqrt(variance),
        sweep.covariance,
        sweep.marginals,
        sweep.cavity_log,
        sweep.change < TOLERANCE,
    )
    return posterior, replace(state, precision=precision, shift=shift)
