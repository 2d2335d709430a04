"""What JSON columns of enrolments and groups hold."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval_core.mastery.aims import Aims, GroupAims, OwnAims

Target = Annotated[float, Field(ge=50, le=95)]
Importance = Annotated[float, Field(ge=0.2, le=3)]
Minutes = Annotated[int, Field(ge=0, le=240)]
Share = Literal["0", "1/4", "1/3", "1/2"]


class GroupSettings(BaseModel):
    """What a tutor set for a group. targets, importance: by topic key, where they are not the
    course's. not_taught: topic keys. classmates: whether members may ask each other for help."""

    targets: dict[str, Target] = {}
    importance: dict[str, Importance] = {}
    not_taught: list[str] = []
    exam_on: date | None = None
    tries: Annotated[int, Field(ge=1, le=5)] = 3
    miss_takes: Share = "1/3"
    asks_sure: bool = True
    own_aims: bool = True
    classmates: bool = True

    def core(self) -> GroupAims:
        """As the core takes it."""
        return GroupAims(
            targets=self.targets,
            importance=self.importance,
            not_taught=frozenset(self.not_taught),
            exam_on=self.exam_on,
            tries=self.tries,
            miss_takes=Fraction(self.miss_takes),
            asks_sure=self.asks_sure,
            own=self.own_aims,
        )


class StudyFirst(BaseModel):
    """A study section, by keys."""

    model_config = ConfigDict(extra="forbid")

    topic: Annotated[str, Field(max_length=60)]
    section: Annotated[str, Field(max_length=60)]


class OwnAimsData(BaseModel):
    """What a learner set for themselves in a course. minutes: from Monday to Sunday, or none."""

    targets: dict[str, Target] = {}
    exam_on: date | None = None
    minutes: list[Minutes] = []

    def core(self) -> OwnAims:
        """As the core takes it."""
        return OwnAims(self.targets, self.exam_on, tuple(self.minutes))


class AimsData(BaseModel):
    """What holds for a learner in a course. collections: of their groups."""

    targets: dict[str, float] = {}
    importance: dict[str, float] = {}
    not_taught: list[str] = []
    exams: list[date] = []
    minutes: list[int] = []
    tries: int = 3
    miss_takes: str = "1/3"
    asks_sure: bool = True
    own: bool = True
    collections: list[int] = []

    @classmethod
    def of(cls, aims: Aims, collections: Sequence[int] = ()) -> AimsData:
        return cls(
            targets=dict(sorted(aims.targets.items())),
            importance=dict(sorted(aims.importance.items())),
            not_taught=sorted(aims.not_taught),
            exams=list(aims.exams),
            minutes=list(aims.minutes),
            tries=aims.tries,
            miss_takes=str(aims.miss_takes),
            asks_sure=aims.asks_sure,
            own=aims.own,
            collections=sorted(collections),
        )
