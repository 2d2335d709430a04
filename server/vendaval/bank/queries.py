"""Reading the bank."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.shared.errors import NotFound

from . import models
from .snapshot import CourseBank, course_bank

__all__ = ["CourseBank", "course_bank", "course_of_key", "study_page"]


def course_of_key(key: str) -> models.Course:
    """The course of a key, or NotFound."""
    found = models.Course.objects.filter(key=key).first()
    if found is None:
        raise NotFound(gettext("We can’t find this course."))
    return found


def study_page(course: models.Course, topic_key: str) -> models.Topic:
    """A topic with its study sections prefetched, or NotFound."""
    found = (
        models.Topic.objects.select_related("subject")
        .prefetch_related("sections")
        .filter(course=course, key=topic_key)
        .first()
    )
    if found is None:
        raise NotFound(gettext("We can’t find this study page."))
    return found
