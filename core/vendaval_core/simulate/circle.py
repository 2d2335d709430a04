"""What weeks of the whole circle are made of, and what is kept of each person."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from ..measure.kernels import ChangeSettings
from ..measure.level import LevelScale
from ..measure.posterior import Prior
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable
from .pupil import Crowd

BLOCK = 20
STARTED = 3


class Choice(StrEnum):
    """How a topic to practise is chosen."""

    RECOMMENDED = "recommended"
    RANDOM = "random"


@dataclass(frozen=True, slots=True)
class CircleFamily:
    """A family of the bank. seconds: a question takes, feedback aside."""

    key: str
    topic: int
    curve: ResponseCurve
    essential: bool
    versions: int
    seconds: float


@dataclass(frozen=True, slots=True)
class Circle:
    """What to simulate. targets: per cent, importance: 1 is ordinary, by topic. minutes: a day.
    trials: whether rechecks are tried out at known levels too."""

    prior: Prior
    families: tuple[CircleFamily, ...]
    targets: tuple[float, ...]
    importance: tuple[float, ...]
    learners: int = 200
    days: int = 56
    minutes: float = 20.0
    choice: Choice = Choice.RECOMMENDED
    trials: bool = True
    crowd: Crowd = Crowd.MIXED
    seed: int = 1
    change: ChangeSettings = field(default_factory=ChangeSettings)


@dataclass(frozen=True, slots=True)
class Told:
    """A forecast and what came: of one topic of one person, said on a day for the end."""

    day: int
    said: float
    came: bool


@dataclass(slots=True)
class Course:
    """What became of one person. met: day and whether it was true then, by topic. questions: asked
    in a topic until it was met. met_by_day (days,). misses: left open at the end. held, lost:
    rechecks. above: topics truly at their target at the end. called: whether that is true, of
    the topics called met at the end. looks: 80% intervals by (stage, practised): held,
    looked at.
    checks: by true level, whether a recheck would have found the target held, and its questions.
    pace, forgets: as believed at the end.
    """

    kind: Crowd
    met: dict[int, tuple[int, bool]] = field(default_factory=dict)
    questions: dict[int, int] = field(default_factory=dict)
    met_by_day: list[int] = field(default_factory=list)
    misses: int = 0
    mended: int = 0
    held: int = 0
    lost: int = 0
    above: int = 0
    answered: int = 0
    called: list[bool] = field(default_factory=list)
    looks: dict[tuple[int, bool], tuple[int, int]] = field(default_factory=dict)
    checks: list[tuple[int, bool, int]] = field(default_factory=list)
    pace: float = 0.0
    forgets: float = 0.0
    told: list[Told] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class CircleBank:
    """The families in the forms that are asked for."""

    circle: Circle
    table: FamilyTable
    by_key: dict[str, CircleFamily]
    by_topic: list[list[CircleFamily]]
    scales: list[LevelScale]
    seconds: list[float]
    wanted: list[float]
    look_days: tuple[int, int, int]

    @classmethod
    def of(cls, circle: Circle) -> CircleBank:
        size = circle.prior.size
        by_topic = [[f for f in circle.families if f.topic == t] for t in range(size)]
        scales = [LevelScale.of([f.curve for f in own]) for own in by_topic]
        return cls(
            circle,
            FamilyTable.of([(f.key, f.topic, f.curve) for f in circle.families], size),
            {f.key: f for f in circle.families},
            by_topic,
            scales,
            [float(np.mean([f.seconds for f in own])) for own in by_topic],
            [s.ability(t) for s, t in zip(scales, circle.targets, strict=True)],
            (min(STARTED, circle.days - 1), circle.days // 2, circle.days - 1),
        )


def circle_blocks(circle: Circle) -> list[NDArray[np.int64]]:
    """The learners, in pieces that can be run on their own."""
    return np.array_split(np.arange(circle.learners), max(1, -(-circle.learners // BLOCK)))
