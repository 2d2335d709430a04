"""Guardians: linked by a code that the learner gives; either side can end it."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.codes import new_code, typed_code
from vendaval.shared.errors import Conflict, NotFound

from .actions import give_role, link_guardian
from .audit import audit
from .models import AuditKind, GuardianCode, Guardianship, Membership, Role, User

CODE_LASTS = timedelta(days=2)


def make_guardian_code(learner: User) -> GuardianCode:
    """A code to give to a guardian; those before it that nobody used open nothing any more."""
    now = clock.now()
    with transaction.atomic():
        learner.guardian_codes.filter(used_at=None).delete()
        return GuardianCode.objects.create(
            learner=learner, code=new_code(), made_at=now, ends_at=now + CODE_LASTS
        )


def link_by_code(guardian: User, typed: str, request: HttpRequest) -> User:
    """Link a guardian to the learner who made a code that holds; else NotFound."""
    now = clock.now()
    with transaction.atomic():
        held = GuardianCode.objects.filter(code=typed_code(typed), used_at=None, ends_at__gt=now)
        code = held.select_related("learner").first()
        if code is None:
            raise NotFound(gettext("This code doesn’t work. It may be too old. Ask for a new one."))
        if code.learner_id == guardian.pk:
            raise Conflict(gettext("Somebody else has to type this code."), code="own_code")
        code.used_at = now
        code.save(update_fields=["used_at"])
        schools = Membership.objects.filter(person=code.learner, role=Role.LEARNER, until=None)
        for held_by_learner in schools.select_related("school"):
            give_role(guardian, held_by_learner.school, Role.GUARDIAN)
        link_guardian(guardian, code.learner)
        audit(AuditKind.GUARDIAN_LINKED, request=request, account=code.learner, by=guardian)
    return code.learner


def end_link(person: User, link_id: int, request: HttpRequest) -> None:
    """End a link that a person is one side of; NotFound for any other."""
    mine = Guardianship.objects.filter(pk=link_id, until=None).select_related("learner")
    link = mine.first()
    if link is None or person.pk not in {link.guardian_id, link.learner_id}:
        raise NotFound(gettext("You aren’t linked to this learner."))
    link.until = clock.now()
    link.save(update_fields=["until"])
    audit(AuditKind.GUARDIAN_ENDED, request=request, account=link.learner, by=person)
