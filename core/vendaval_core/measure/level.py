"""The level: the share of a topic's questions the learner knows, guessing not counted.

Characteristic curve of the topic's live families; domain score of Bock, Thissen and
Zimowski 1997. Shown at the posterior median with an 80 % interval.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.language import gettext

from ..errors import OutOfRange
from .grid import THETA, Array, probabilities_above, quantile, quantiles
from .response import ResponseCurve

# Shown to people as "usually between": four in five.
INTERVAL = (0.1, 0.9)
# Wider than this a needle would claim what nobody knows: only the bar is shown.
# A level from fewer answers of its own topic rests on what is usual for others.
FIRST_ANSWERS = 3
WIDEST_SHOWN = 40.0
DEFAULT_TARGET = 80.0


@dataclass(frozen=True, slots=True)
class LevelScale:
    """A topic's characteristic curve: `levels` (NODES,) in per cent, rising along the grid."""

    levels: Array

    @classmethod
    def of(cls, curves: Sequence[ResponseCurve]) -> LevelScale:
        """Scale of the topic's live families; at least one, else OutOfRange."""
        if not curves:
            raise OutOfRange(gettext("a topic without families has no level"))
        return cls(np.asarray(100.0 * np.mean([c.knowing(THETA) for c in curves], axis=0)))

    def level(self, theta: float) -> float:
        """Level in per cent at an ability in logits."""
        return float(np.interp(theta, THETA, self.levels))

    def ability(self, level: float) -> float:
        """Ability in logits at a level in per cent, held to the grid's ends."""
        if not 0.0 <= level <= 100.0:
            raise OutOfRange(gettext("a level is 0 to 100, not {level}").format(level=level))
        return float(np.interp(level, self.levels, THETA))


def level_error(curves: Sequence[ResponseCurve], level: float, times: int) -> float:
    """Return the standard error of a level (points of 100) after `times` answers to each family.

    It comes from the families' information alone, without a prior: how well a bank can tell apart
    learners at this level.
    """
    scale = LevelScale.of(curves)
    theta = scale.ability(level)
    near = np.array([theta - 0.05, theta + 0.05])
    slope = float(np.diff([scale.level(one) for one in near])[0]) / 0.1
    information = times * sum(float(c.information(np.array([theta]))[0]) for c in curves)
    return slope / float(np.sqrt(information))


def level_quantile(mass: Array, scale: LevelScale, p: float) -> float:
    """Level below which the learner's true level lies with probability `p`, 0 < p < 1.

    mass: density over ability (NODES,). Returns per cent, 0 to 100. Raises OutOfRange for any
    other p. Source: docs/measurement.md, "Level".
    """
    return scale.level(quantile(mass, p))


@dataclass(frozen=True, slots=True)
class LevelReading:
    """A level as it is shown: median, 80 % interval and target in per cent.

    sd: of ability, logits. chance: probability 0 to 1 that the level is at or above target.
    """

    level: float
    low: float
    high: float
    sd: float
    target: float
    chance: float

    @property
    def known(self) -> bool:
        """Whether the interval is narrow enough for a number to be shown."""
        return self.high - self.low <= WIDEST_SHOWN


def read_levels(
    masses: Array, sds: Array, scales: Sequence[LevelScale], targets: Sequence[float]
) -> list[LevelReading]:
    """Return the readings of K topics from their marginals (K, NODES) and sds of ability (K,),
    logits. targets (K,): per cent."""
    low, middle, high = quantiles(masses, (INTERVAL[0], 0.5, INTERVAL[1])).T
    wanted = np.array([s.ability(t) for s, t in zip(scales, targets, strict=True)])
    chances = probabilities_above(masses, wanted)
    places = np.stack([low, middle, high], axis=1)
    levels = [np.interp(places[k], THETA, scale.levels).tolist() for k, scale in enumerate(scales)]
    return [
        LevelReading(level, under, over, sd, target, chance)
        for (under, level, over), sd, target, chance in zip(
            levels, np.asarray(sds).tolist(), targets, chances.tolist(), strict=True
        )
    ]


def read_level(mass: Array, sd: float, scale: LevelScale, target: float) -> LevelReading:
    """Return the reading of one topic from its marginal (NODES,) and the sd of ability, logits.
    target: per cent."""
    return read_levels(mass[None], np.array([sd]), [scale], [target])[0]
