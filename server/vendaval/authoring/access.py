"""Whose courses somebody writes for."""

from __future__ import annotations

from dataclasses import dataclass

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.groups.models import Group
from vendaval.groups.queries import collections_open_to, taught_by
from vendaval.groups.writing import courses_written_by
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import NotFound

from .families import Opened, opened


@dataclass(frozen=True, slots=True)
class Begun:
    """Where a question is begun. group: whose own it will be, None for the course's."""

    course: Course
    group: Group | None


def begun_for(person: User, key: str, group: int | None, operation: str) -> Begun:
    """Where somebody may begin a question: in a course they write for, or for a group they teach;
    else NotFound."""
    if group is None:
        return Begun(course_of_author(person, key, operation), None)
    found = taught_by(person).filter(course__key=key, pk=group).first()
    require(operation, person.roles, Relation.GROUP if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t have this group."))
    return Begun(found.course, found)


def course_of_writer(person: User, key: str, operation: str) -> Course:
    """A course that somebody writes for, or has a group in; else NotFound."""
    return _written(person, key, operation)[0]


def family_of_writer(person: User, course: str, key: str, operation: str) -> Opened:
    """A question, opened by an author of its course or a tutor of the group whose own it is; else
    NotFound."""
    found, as_author = _written(person, course, operation)
    family = opened(found, key, person)
    if not as_author and family.collection_id not in collections_open_to(person, found):
        raise NotFound(gettext("This course doesn’t have that question."))
    return family


def _written(person: User, key: str, operation: str) -> tuple[Course, bool]:
    """A course, and whether somebody writes for it as its author."""
    written = courses_written_by(person).filter(key=key).first()
    if written is not None:
        require(operation, person.roles, Relation.OWN)
        return written, True
    taught = taught_by(person).filter(course__key=key).first()
    require(operation, person.roles, Relation.GROUP if taught is not None else None)
    if taught is None:
        raise NotFound(gettext("You don’t write for this course."))
    return taught.course, False


def course_of_author(person: User, key: str, operation: str) -> Course:
    """One of these, for an operation they may do; else NotFound."""
    found = courses_written_by(person).filter(key=key).first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t write for this course."))
    return found
