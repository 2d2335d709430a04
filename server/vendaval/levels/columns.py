"""What JSON columns of levels hold."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from vendaval_core.measure.level import LevelReading


class FamilyHistory(BaseModel):
    """One family for one learner.

    seeds: order number of the last presentation by seed. count: first tries given. right: seeds
    right at the first try with weight above 0. last: order number of the last answer. sitting: of
    the last answer. mark: of the curve that its answers were folded with. missed: seed of the
    question whose miss is open.
    """

    seeds: dict[int, int] = {}
    count: int = 0
    right: list[int] = []
    last: int = -1
    sitting: int = -1
    mark: str = ""
    missed: int | None = None


class TopicHistory(BaseModel):
    """One topic for one learner.

    steady: weight of the answers running that left it likely enough to be at its target.
    met_at: when it was met. recheck_at: when it is to be rechecked, recheck_days after it was met
    or last held. secure: whether its last recheck held; lost: whether it did not.
    """

    steady: float = 0.0
    met_at: datetime | None = None
    recheck_at: datetime | None = None
    recheck_days: float = 0.0
    secure: bool = False
    lost: bool = False


class StudyPlace(BaseModel):
    """A study section by the keys of its topic and its own."""

    topic: str
    section: str


class ReadingData(BaseModel):
    """A reading as it is stored."""

    level: float
    low: float
    high: float
    sd: float
    target: float
    chance: float

    @classmethod
    def of(cls, reading: LevelReading) -> ReadingData:
        return cls(
            level=round(reading.level, 3),
            low=round(reading.low, 3),
            high=round(reading.high, 3),
            sd=round(reading.sd, 5),
            target=reading.target,
            chance=round(reading.chance, 5),
        )

    def reading(self) -> LevelReading:
        return LevelReading(self.level, self.low, self.high, self.sd, self.target, self.chance)
