"""How ability moves on the grid: by learning and by time, at a given pace.

Masses over the nodes are moved by matrices. The constants are judgements, in `ChangeSettings`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from .grid import NODES, STEP, Array

PaceChances = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class ChangeSettings:
    """Judgements about change. Means, sds and jumps in logits, variance in logits² per day.

    jump_chance: of a step, at each opportunity, for somebody of pace 1. learning: paces there may
    be and the chance of each before anything is known; likewise forgetting, in logits a day.
    forgotten_for: days without an answer in a topic after which nothing more is forgotten there.
    lapse: what is lost where a check finds that something was.
    """

    drift_sd: float = 0.05
    jump_chance: float = 0.034
    jump_mean: float = 1.2
    jump_sd: float = 0.6
    variance_per_day: float = 0.01
    learning: PaceChances = (
        (0, 0.15),
        (0.3, 0.14),
        (0.6, 0.19),
        (1, 0.25),
        (1.8, 0.17),
        (3.2, 0.1),
    )
    forgetting: PaceChances = ((0, 0.55), (0.02, 0.25), (0.05, 0.15), (0.1, 0.05))
    forgotten_for: float = 60.0
    lapse_mean: float = -1.0
    lapse_sd: float = 0.7


def gaussian_weights(mean: float, variance: float, nodes: int = NODES, step: float = STEP) -> Array:
    """Masses of N(mean, variance) over the offsets between nodes. Shape (2·nodes - 1,).

    One narrower than the grid is replaced by three masses with the same mean and, where they can
    have it, the same variance.
    """
    if variance >= 0.5 * step * step:
        offsets = step * np.arange(-(nodes - 1), nodes)
        weights = np.exp(-0.5 * (offsets - mean) ** 2 / variance)
        return np.asarray(weights / weights.sum())
    weights = np.zeros(2 * nodes - 1)
    whole = round(mean / step)
    rest = mean / step - whole
    both = max(variance / (step * step) + rest * rest, abs(rest))
    middle = int(np.clip(nodes - 1 + whole, 1, 2 * nodes - 3))
    weights[middle - 1 : middle + 2] = ((both - rest) / 2, 1 - both, (both + rest) / 2)
    return weights


def kernel_of(weights: Array) -> Array:
    """Chance of moving to node i from node j, (nodes, nodes), from masses over the offsets.
    Columns sum to 1: what would leave the grid stays on it."""
    nodes = (len(weights) + 1) // 2
    index = np.arange(nodes)
    kernel = weights[(index[:, None] - index[None, :]) + nodes - 1]
    sums = kernel.sum(axis=0, keepdims=True)
    kernel = np.divide(kernel, sums, out=np.eye(nodes), where=sums > 0)
    return np.asarray(kernel)


@lru_cache(maxsize=16)
def learning_kernels(
    settings: ChangeSettings, nodes: int = NODES, step: float = STEP
) -> tuple[Array, Array]:
    """Kernels of one learning opportunity: of the small drift there always is, and of a step."""
    drift = kernel_of(gaussian_weights(0.0, settings.drift_sd**2, nodes, step))
    jump = kernel_of(gaussian_weights(settings.jump_mean, settings.jump_sd**2, nodes, step))
    for kernel in (drift, jump):
        kernel.setflags(write=False)
    return drift, jump


@lru_cache(maxsize=16)
def lapse_kernel(settings: ChangeSettings, nodes: int = NODES, step: float = STEP) -> Array:
    """Kernel of having lost some of a topic."""
    kernel = kernel_of(gaussian_weights(settings.lapse_mean, settings.lapse_sd**2, nodes, step))
    kernel.setflags(write=False)
    return kernel


@lru_cache(maxsize=16)
def learning_kernel(settings: ChangeSettings, pace: float = 1.0) -> Array:
    """Kernel of one learning opportunity of somebody of a pace."""
    drift, jump = learning_kernels(settings)
    chance = settings.jump_chance * pace
    kernel = np.asarray((1 - chance) * drift + chance * jump)
    kernel.setflags(write=False)
    return kernel


@lru_cache(maxsize=32)
def time_kernel(days: float, settings: ChangeSettings) -> Array:
    """Kernel of some days (0 or more) without an answer, of somebody who forgets nothing."""
    kernel = kernel_of(gaussian_weights(0.0, settings.variance_per_day * days))
    kernel.setflags(write=False)
    return kernel


def forgetting_kernel(days: float, variance: float, paces: Array, chances: Array) -> Array:
    """Kernel of time in which a learner forgets for some days at one of several paces.

    variance: of what time adds beside it, logits². paces (F,) logits a day, with chances (F,).
    """
    weights = sum(
        chance * gaussian_weights(-float(pace) * days, variance)
        for pace, chance in zip(paces, chances, strict=True)
    )
    return kernel_of(np.asarray(weights))
