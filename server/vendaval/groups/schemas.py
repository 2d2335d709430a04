"""Courses as the browser sees them."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vendaval.shared.editing import Edited

from .columns import Minutes, Target


class CourseOut(BaseModel):
    """A course the account learns in."""

    key: str
    title: str


class CoursesOut(BaseModel):
    """`open`: courses that anybody may begin, and this account has not."""

    courses: list[CourseOut]
    open: list[CourseOut]


class TopicAimOut(BaseModel):
    """What holds in a topic. `own`: the target the learner set themselves, if any."""

    key: str
    title: str
    subject: str
    target: int
    course_target: int
    own: int | None
    taught: bool


class AimsOut(BaseModel):
    """What a learner works towards. `own`: whether own targets and an own date count. `minutes`:
    from Monday to Sunday, or none. `groups`: those whose settings hold."""

    groups: list[str]
    own: bool
    own_exam_on: date | None
    exams: list[date]
    minutes: list[int]
    version: str
    topics: list[TopicAimOut]


class AimsEdit(BaseModel):
    """A learner's own aims; targets by topic key, left out where the group's or course's hold."""

    model_config = ConfigDict(extra="forbid")
    targets: dict[Annotated[str, Field(max_length=50)], Target] = {}
    exam_on: date | None = None
    minutes: Annotated[list[Minutes], Field(max_length=7)] = []


class AimsIn(AimsEdit, Edited):
    """A learner's own aims changed."""
