"""Reading the bank."""

from __future__ import annotations

from . import models
from .snapshot import CourseBank, course_bank

__all__ = ["CourseBank", "course_bank", "default_course", "study_page"]


def default_course() -> models.Course:
    """The course learners are in. One course is loaded in this version of the product."""
    return models.Course.objects.defer("rehearsal").order_by("pk")[:1].get()


def study_page(course: models.Course, topic_key: str) -> models.Topic:
    """A topic with its study sections prefetched; Topic.DoesNotExist when there is none."""
    return (
        models.Topic.objects.select_related("subject")
        .prefetch_related("sections")
        .get(course=course, key=topic_key)
    )
