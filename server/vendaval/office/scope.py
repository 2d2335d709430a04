"""Whom and what an office sees: the people, groups and courses of its school, and no answers."""

from __future__ import annotations

from django.db.models import Q, QuerySet
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.groups.models import Group
from vendaval.people.models import Role, School, User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import Conflict, NotFound


def school_of(person: User, operation: str) -> School:
    """The school whose office somebody works in, for an operation they may do; else NotFound."""
    mine = School.objects.filter(
        memberships__person=person, memberships__role=Role.OFFICE, memberships__until=None
    )
    found = mine.order_by("pk").first()
    require(operation, person.roles, Relation.SCHOOL if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t work in a school office."))
    return found


def people_of(school: School) -> QuerySet[User]:
    """Everybody who is or was something at a school; practice learners are nobody."""
    held = User.objects.filter(memberships__school=school, practice_for=None)
    return held.distinct()


def person_of(school: School, person_id: int) -> User:
    """One of them; NotFound for anybody else."""
    found = people_of(school).filter(pk=person_id).first()
    if found is None:
        raise NotFound(gettext("We can’t find this person at your school."))
    return found


def is_present(person: User, school: School) -> bool:
    """Whether somebody is something at a school now: an office's powers end with that."""
    return person.memberships.filter(school=school, until=None).exists()


def refuse_absent(person: User, school: School) -> None:
    """Conflict when somebody's time at the school has ended: its record can be read, no more."""
    if not is_present(person, school):
        raise Conflict(
            gettext("They have left your school. You can read their record but not change it."),
            code="left_school",
        )


def refuse_of_two_schools(person: User, school: School) -> None:
    """Conflict for what would take an account that belongs to people of another school too: no
    office alone may do that."""
    if person.memberships.filter(until=None).exclude(school=school).exists():
        raise Conflict(
            (
                gettext(
                    "Another school uses this account too. Its owner can change this. You can "
                    "end their roles at your school."
                )
            ),
            code="two_schools",
        )


def courses_of(school: School) -> QuerySet[Course]:
    return Course.objects.filter(school=school).order_by("title", "pk")


def groups_of(school: School) -> QuerySet[Group]:
    rows = Group.objects.filter(course__school=school).select_related("course")
    return rows.order_by("title", "pk")


def group_of(school: School, group_id: int) -> Group:
    """A group of the school; NotFound for any other."""
    found = groups_of(school).filter(pk=group_id).first()
    if found is None:
        raise NotFound(gettext("Your school doesn’t have this group."))
    return found


def named(text: str) -> Q:
    """People whose name, sign-in name or mail address holds a text."""
    return Q(display_name__icontains=text) | Q(username__icontains=text) | Q(email__icontains=text)
