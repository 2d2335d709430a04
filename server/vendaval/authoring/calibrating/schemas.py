"""What the page of calibrations gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.authoring.bank.schemas import MeasuredOut
from vendaval.delivery.schemas import PlaceOut
from vendaval.work.schemas import Strict

Show = Literal["proposed", "alone", "asks"]


class CalibrationFilter(Strict):
    show: Show = "proposed"
    page: Annotated[int, Field(ge=1, le=10_000)] = 1


class RunningOut(BaseModel):
    """A calibration being made: the topic it is at, `done` of `topics`."""

    topic: str
    done: int
    topics: int


class CalibratedOut(BaseModel):
    """A question in a calibration. `present`: its difficulty now, of 100; `proposed` as the bank
    draws it. `why`: what was left alone, and why; what authors are asked to look at."""

    key: str
    title: str
    topic: PlaceOut
    answers: int
    present: float
    proposed: MeasuredOut | None
    why: list[str]
    asks: list[str]
    accepted: bool


class CalibrationPageOut(BaseModel):
    """The newest calibration of a course. `counts`: of what can be shown. `busy`: levels are being
    made again. `table`: name of the table it was made of, "" for the course's log."""

    course: str
    id: int | None
    made_at: datetime | None
    made_by: str
    answers: int
    table: str
    effect: str
    running: RunningOut | None
    busy: bool
    counts: dict[Show, int]
    page: int
    pages: int
    lines: list[CalibratedOut]


class CurvePointOut(BaseModel):
    """`at`: the level, 0 to 100. `present`, `proposed`: the share expected, 0 to 1."""

    at: float
    present: float
    proposed: float | None


class ObservedOut(BaseModel):
    at: float
    share: float
    answers: int


class CalibratedCurvesOut(BaseModel):
    """A question's curves over the level in its topic, and what was observed."""

    curves: list[CurvePointOut]
    observed: list[ObservedOut]


class FamiliesIn(Strict):
    """Questions of a calibration; all of them where none is named."""

    families: Annotated[list[str], Field(max_length=500)] = []
