"""Accounts and roles: made, given, taken away."""

from __future__ import annotations

from datetime import datetime

from vendaval.shared import clock

from .models import Guardianship, Membership, Role, School, User


def give_role(person: User, school: School, role: Role, since: datetime | None = None) -> None:
    """Let a person hold a role at a school from now on; nothing when they hold it already."""
    Membership.objects.get_or_create(
        person=person,
        school=school,
        role=role,
        until=None,
        defaults={"since": since or clock.now()},
    )


def end_role(person: User, school: School, role: Role) -> None:
    """A role ends now; what was done in it stays."""
    held = Membership.objects.filter(person=person, school=school, role=role, until=None)
    held.update(until=clock.now())


def link_guardian(guardian: User, learner: User, *, vouched: bool = False) -> None:
    """Let a guardian read a learner's pages from now on. vouched: the office says who they are."""
    link, _ = Guardianship.objects.get_or_create(
        guardian=guardian, learner=learner, until=None, defaults={"since": clock.now()}
    )
    if vouched and not link.vouched:
        link.vouched = True
        link.save(update_fields=["vouched"])
