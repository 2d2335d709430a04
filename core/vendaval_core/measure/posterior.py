"""A learner's state over correlated topics, and the posterior by expectation propagation.

The state is a base Gaussian, which starts as the course's prior and takes up what learning and
time change, and one row of log evidence per topic on the grid. One Gaussian site per topic stands
for its row; block expectation propagation (Minka 2001) finds the sites.
Source and bars: docs/measurement.md, "Posterior".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vendaval_core.language import gettext

from ..errors import OutOfRange
from .grid import NODES, Array, moments
from .rates import OneFollowed
from .sweeps import Gaussian, Joint, converge_damped, tilted_weights

# A pack that asks for more would let one answer decide about a topic, or about another one.
MOST_SD = 1.5
MOST_CORRELATION = 0.9


@dataclass(frozen=True, slots=True)
class Prior:
    """Ability over K topics before any answer: mean (K,) in logits, covariance (K, K)."""

    mean: Array
    covariance: Array
    gaussian: Gaussian

    @classmethod
    def of(cls, mean: Array, covariance: Array) -> Prior:
        """Prior from its moments. OutOfRange when shapes differ or it is not positive definite."""
        if covariance.shape != (len(mean), len(mean)):
            raise OutOfRange(gettext("prior mean and covariance have different sizes"))
        if len(mean) and np.linalg.eigvalsh(covariance)[0] <= 1e-9:
            raise OutOfRange(gettext("prior covariance is not positive definite"))
        precision = np.asarray(np.linalg.inv(covariance), dtype=np.float64)
        variance = np.diagonal(covariance).copy()
        return cls(mean, covariance, Gaussian(precision, precision @ mean, variance))

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
    """Everything the answers have said so far, and how the learner has changed since.

    rows: (K, NODES) log evidence per topic. sites: (2K,) precisions and then shifts of the
    Gaussian sites, kept so that the next update starts warm. precision (K, K), shift (K,): of the
    learner's own base Gaussian, the prior with learning and time in it. followed: what is known of
    their paces of learning and forgetting, None before any answer.
    """

    rows: Array
    sites: Array
    precision: Array
    shift: Array
    followed: OneFollowed | None = None

    @classmethod
    def of(cls, prior: Prior) -> LearnerState:
        """State of a learner who has not answered anything."""
        rows, sites = np.zeros((prior.size, NODES)), np.zeros(2 * prior.size)
        return cls(rows, sites, prior.gaussian.precision.copy(), prior.gaussian.shift.copy())

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
    marginals: (K, NODES) tilted marginals as masses. converged: the sweeps settled.
    """

    mean: Array
    sd: Array
    covariance: Array
    marginals: Array
    converged: bool


def posterior_of(joint: Joint, rows: Array, learner: int = 0) -> Posterior:
    """Return the posterior of one learner of a batch. rows (K, NODES): that learner's."""
    weights = tilted_weights(rows, joint.cavity_precision[learner], joint.cavity_shift[learner])
    marginals = weights / weights.sum(axis=1, keepdims=True)
    mean, variance = moments(marginals)
    converged = bool(joint.converged[learner])
    return Posterior(mean, np.sqrt(variance), joint.covariance[learner], marginals, converged)


def infer(prior: Prior, state: LearnerState) -> tuple[Posterior, LearnerState]:
    """Return the posterior of a state, and the state with the sites found, from which the next call
    starts.

    Sweeps that do not converge are repeated with damping; `converged` says whether that helped.
    """
    base = Gaussian(state.precision, state.shift, prior.gaussian.variance)
    joint = converge_damped(base, state.rows[None], state.sites[None])
    return posterior_of(joint, state.rows), replace(state, sites=joint.sites[0])
