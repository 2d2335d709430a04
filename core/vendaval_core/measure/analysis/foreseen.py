"""What a test would bring in a group, before it is given: from curves and what is believed of each
learner.

The spread of true scores and the mean error variance at these abilities give the reliability: the
marginal reliability of Green, Bock, Humphreys, Linn and Reckase (1984), Technical guidelines for
assessing computerized adaptive tests, Journal of Educational Measurement 21, 347-360 (from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..grid import Array
from ..response import ResponseCurve

DRAWS = 64
MIDDLE = (0.1, 0.9)


@dataclass(frozen=True, slots=True)
class Asked:
    """A question that will be asked: one of these curves, each as likely, worth so many points.
    topics: of each curve, as numbers."""

    curves: tuple[ResponseCurve, ...]
    topics: tuple[int, ...]
    points: float


@dataclass(frozen=True, slots=True)
class Foreseen:
    """Results in per cent. low, high: four in five learners are between. sd: of the results.
    reliability: None where nobody differs. passing: share of the learners, 0 to 1, None without a
    pass mark."""

    mean: float
    low: float
    high: float
    sd: float
    reliability: float | None
    passing: float | None


def foreseen(
    asked: Sequence[Asked], means: Array, sds: Array, pass_mark: float | None = None
) -> Foreseen | None:
    """Return what the results would be; None without questions or learners.

    means, sds (N, K): of each learner's ability in each topic, logits. What is not known of a
    learner's topics is drawn independently, the same draws every time; pass_mark: per cent.
    """
    of = sum(one.points for one in asked)
    if of <= 0 or len(means) == 0:
        return None
    rng = np.random.default_rng(1)
    theta = means[:, :, None] + sds[:, :, None] * rng.standard_normal((*means.shape, DRAWS))
    true = np.zeros((len(means), DRAWS))
    noise = np.zeros_like(true)
    for one in asked:
        mean, variance = _mixed(one, theta)
        true += one.points * mean
        noise += one.points**2 * variance
    per_cent, error = 100 * true / of, (100 / of) ** 2 * noise
    results = per_cent + np.sqrt(error) * rng.standard_normal(true.shape)
    results = np.clip(results, 0, 100)
    spread, mistaken = float(per_cent.var()), float(error.mean())
    low, high = (float(one) for one in np.quantile(results, MIDDLE))
    return Foreseen(
        mean=float(per_cent.mean()),
        low=low,
        high=high,
        sd=(spread + mistaken) ** 0.5,
        reliability=None if spread <= 0 else spread / (spread + mistaken),
        passing=None if pass_mark is None else float((results >= pass_mark).mean()),
    )


def _mixed(one: Asked, theta: Array) -> tuple[Array, Array]:
    """Mean and variance of the share of one question's points, over which of them is drawn."""
    shape = theta.shape[0], theta.shape[2]
    first, second = np.zeros(shape), np.zeros(shape)
    for curve, topic in zip(one.curves, one.topics, strict=True):
        mean, variance = curve.share(theta[:, topic, :].ravel())
        first += mean.reshape(shape) / len(one.curves)
        second += (variance + mean**2).reshape(shape) / len(one.curves)
    return first, second - first**2
