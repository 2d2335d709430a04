"""The plan to a date and spells of work, as the browser sees and sends them."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval.delivery.schemas import PlaceOut, ReadingOut, StudyLinkOut
from vendaval_core.mastery.filling import PieceKind

SpellMinutes = Annotated[int, Field(ge=5, le=120)]


class SpellPieceOut(BaseModel):
    """A piece of a spell: what, why, how long. `run`: that it became."""

    kind: PieceKind
    topic: PlaceOut
    title: str
    why: str
    minutes: int
    questions: int
    run: int | None
    study: StudyLinkOut | None
    state: Literal["waiting", "begun", "done", "passed"]


class SpellPlanOut(BaseModel):
    """What some minutes would be filled with. Looking at it begins nothing."""

    minutes: int
    filled: int
    says: str
    pieces: list[SpellPieceOut]


class SpellOut(BaseModel):
    """A spell of work under way or done. `current`: number of the piece that is at hand."""

    id: int
    minutes: int
    minutes_left: int
    ended: bool
    current: int | None
    started_at: datetime
    pieces: list[SpellPieceOut]


class StartSpellIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    minutes: SpellMinutes


class GoOnSpellIn(BaseModel):
    """piece: number of the piece that is at hand, so that the same request again does nothing."""

    model_config = ConfigDict(extra="forbid")
    piece: Annotated[int, Field(ge=0, le=100)]


class PlanTopicOut(BaseModel):
    """`chance`: of its target being met by the date, 0 to 1."""

    topic: PlaceOut
    reading: ReadingOut
    chance: float


class PlanPointOut(BaseModel):
    """Topics at the target by a day: as expected, and the fewest and most of four in five."""

    on: date
    mean: float
    low: float
    high: float


class PlanItemOut(BaseModel):
    title: str
    minutes: int
    kind: Literal["practise", "recheck", "review"]


class PlanDayOut(BaseModel):
    on: date
    minutes: int
    items: list[PlanItemOut]


class TenthOut(BaseModel):
    """Past forecasts of one tenth, and how often they came true."""

    said: float
    came: float
    count: int


class PlanOut(BaseModel):
    """The plan to a date, or what is missing for one: then only `exam_on` and `minutes` are set.

    `headline`, `details`: in words. `chance`: of every target met, and with ten minutes a day
    more. `paths`: how often the learner was played forward. `past`: how such forecasts did.
    `pace_says`: how fast this learner learns and forgets. `earlier_says`: what was forecast for the
    same date before.
    """

    exam_on: date | None
    days: int
    minutes: list[int]
    said_minutes: bool
    topics: int
    headline: str
    details: list[str]
    chance: float | None
    chance_with_more: float | None
    paths: int
    curve: list[PlanPointOut]
    deciding: list[PlanTopicOut]
    week: list[PlanDayOut]
    past: list[TenthOut]
    past_says: str
    pace_says: str
    earlier_says: str
