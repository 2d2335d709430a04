"""A practice learner: an account of a tutor's or author's own, to see a course as learners do.

What it does never counts in group figures, calibration or comparison.
"""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.people.sessions import begin_session
from vendaval.shared.errors import Conflict

from .actions import enrol, refresh_aims
from .queries import course_of_staff

OPERATION = "start_practice_learner"


def become_practice_learner(request: HttpRequest, person: User, key: str) -> User:
    """Go on as one's practice learner in a course; it is made when there is none."""
    if person.practice_for_id is not None:
        raise Conflict(gettext("You are already the practice learner."), code="practising")
    course = course_of_staff(person, key, OPERATION)
    named = {"display_name": f"{person.display_name}, practising"[:80]}
    learner, made = User.objects.update_or_create(
        practice_for=person,
        defaults=named,
        create_defaults=named | {"username": f"practice-learner-{person.pk}"},
    )
    if made:
        learner.set_unusable_password()
        learner.save(update_fields=["password"])
    refresh_aims(enrol(learner, course))
    begin_session(request, learner)
    audit(
        AuditKind.PRACTISING, request=request, account=person, says=gettext("as practice learner")
    )
    return learner


def back_to_own(request: HttpRequest, learner: User) -> User:
    """Back from the practice learner to the account it belongs to."""
    owner = learner.practice_for
    if owner is None or not owner.is_active:
        raise Conflict(gettext("This isn’t a practice learner."), code="not_practising")
    begin_session(request, owner)
    audit(AuditKind.PRACTISING, request=request, account=owner, says="back")
    return owner
