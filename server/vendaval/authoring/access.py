"""Whose courses somebody writes for."""

from __future__ import annotations

from django.db.models import QuerySet
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.people.models import Role, User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import NotFound


def courses_written_by(person: User) -> QuerySet[Course]:
    """Courses that somebody is an author of now."""
    return Course.objects.filter(
        school__memberships__person=person,
        school__memberships__role=Role.AUTHOR,
        school__memberships__until=None,
    ).order_by("title")


def course_of_author(person: User, key: str, operation: str) -> Course:
    """One of these, for an operation they may do; else NotFound."""
    found = courses_written_by(person).filter(key=key).first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t write for this course."))
    return found
