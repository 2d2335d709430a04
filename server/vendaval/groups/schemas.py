"""Courses as the browser sees them."""

from __future__ import annotations

from pydantic import BaseModel


class CourseOut(BaseModel):
    """A course the account learns in."""

    key: str
    title: str


class CoursesOut(BaseModel):
    courses: list[CourseOut]
