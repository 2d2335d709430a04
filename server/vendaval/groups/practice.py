"""A practice learner: an account of a tutor's or author's own, to see a course as learners do.

What it does never counts in group figures, calibration or comparison.
"""

from __future__ import annotations

from django.contrib.auth import login
from django.db.models import Q
from django.http import HttpRequest

from vendaval.bank.models import Course
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, Role, User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import Conflict, NotFound

from .actions import enrol

OPERATION = "begin_practice_learner"


def course_to_practise(person: User, key: str) -> Course:
    """A course that a tutor has a group in, or an author writes for; else NotFound."""
    teaching = Q(groups__tutors__person=person, groups__tutors__until=None)
    writing = Q(
        school__memberships__person=person,
        school__memberships__role=Role.AUTHOR,
        school__memberships__until=None,
    )
    found = Course.objects.filter(teaching | writing, key=key).distinct().first()
    require(OPERATION, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound("There is no such course of yours.")
    return found


def become_practice_learner(request: HttpRequest, person: User, key: str) -> User:
    """Go on as one's practice learner in a course; it is made when there is none."""
    if person.practice_for_id is not None:
        raise Conflict("You are the practice learner already.", code="practising")
    course = course_to_practise(person, key)
    learner, made = User.objects.get_or_create(
        practice_for=person,
        defaults={
            "username": f"practice-learner-{person.pk}",
            "display_name": f"{person.display_name}, practising"[:80],
        },
    )
    if made:
        learner.set_unusable_password()
        learner.save(update_fields=["password"])
    enrol(learner, course)
    _go_on_as(request, learner)
    audit(AuditKind.PRACTISING, request=request, account=person, says="as practice learner")
    return learner


def back_to_own(request: HttpRequest, learner: User) -> User:
    """Back from the practice learner to the account it belongs to."""
    owner = learner.practice_for
    if owner is None or not owner.is_active:
        raise Conflict("This is no practice learner.", code="not_practising")
    _go_on_as(request, owner)
    audit(AuditKind.PRACTISING, request=request, account=owner, says="back")
    return owner


def _go_on_as(request: HttpRequest, person: User) -> None:
    login(request, person)
