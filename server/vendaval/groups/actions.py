"""Enrolling people and putting them into groups."""

from __future__ import annotations

from vendaval.bank.models import Course
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.shared import clock

from .models import Enrolment, Group, GroupMember, GroupTutor


def enrol(person: User, course: Course) -> Enrolment:
    """Put a person into a course as a learner; one who left comes back to what they had."""
    give_role(person, course.school, Role.LEARNER)
    found, made = Enrolment.objects.get_or_create(
        person=person, course=course, defaults={"since": clock.now()}
    )
    if not made and found.until is not None:
        found.until = None
        found.save(update_fields=["until"])
    return found


def leave_course(enrolment: Enrolment) -> None:
    """End an enrolment; what was done in it stays."""
    enrolment.until = clock.now()
    enrolment.save(update_fields=["until"])


def put_in_charge(group: Group, person: User) -> None:
    """Let a tutor teach a group from now on."""
    give_role(person, group.course.school, Role.TUTOR)
    GroupTutor.objects.get_or_create(
        group=group, person=person, until=None, defaults={"since": clock.now()}
    )


def join_group(group: Group, enrolment: Enrolment) -> None:
    """Put a learner into a group of their course from now on."""
    GroupMember.objects.get_or_create(
        group=group, enrolment=enrolment, until=None, defaults={"since": clock.now()}
    )
