"""People who come to a school: what is said of them, checked, and taken in all at once."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from django.contrib.auth.hashers import make_password
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.groups.columns import AimsData, OwnAimsData
from vendaval.groups.models import Enrolment, Group, GroupMember, GroupTutor
from vendaval.people.audit import audit
from vendaval.people.consent import age_on
from vendaval.people.models import (
    AuditEntry,
    AuditKind,
    Guardianship,
    LinkKind,
    Membership,
    OneTimeLink,
    Role,
    School,
    User,
)
from vendaval.people.one_time_links import new_link
from vendaval.shared import clock
from vendaval.shared.errors import Conflict
from vendaval_core.mastery.aims import combined

OLDEST = 110


@dataclass(frozen=True, slots=True)
class Newcomer:
    """Somebody to be invited. group: to learn in, or, for a tutor, to teach. guardian_mail: of
    whom a learner below the school's age needs the consent."""

    name: str
    mail: str
    role: Role
    group: Group | None = None
    born: date | None = None
    guardian_name: str = ""
    guardian_mail: str = ""


def faults_of(one: Newcomer, school: School, today: date) -> list[str]:
    """What keeps somebody from being taken in, seen by themselves; in sentences."""
    found = []
    if one.group is not None and one.role not in (Role.LEARNER, Role.TUTOR):
        found.append(gettext("Only learners and tutors can be in a group."))
    if one.born is not None and not 0 <= age_on(one.born, today) <= OLDEST:
        found.append(gettext("Check the date of birth: {born}.").format(born=one.born))
    young = one.born is not None and age_on(one.born, today) < school.consent_until
    if one.role is Role.LEARNER and young and not one.guardian_mail:
        found.append(
            gettext(
                "Below age {consent_until} a guardian has to agree. Add their name and mail "
                "address."
            ).format(consent_until=school.consent_until)
        )
    if one.guardian_mail and one.role is not Role.LEARNER:
        found.append(gettext("Only learners can have a guardian here."))
    if bool(one.guardian_mail) != bool(one.guardian_name):
        found.append(gettext("A guardian needs a name and a mail address."))
    if one.guardian_mail and one.guardian_mail.casefold() == one.mail.casefold():
        found.append(gettext("The guardian and the learner have the same mail address."))
    return found


def known_mails(school: School, mails: Iterable[str]) -> dict[str, User]:
    """People with an open account at the school, by mail address in small letters."""
    wanted = {mail.casefold() for mail in mails if mail}
    held = User.objects.filter(memberships__school=school, is_active=True).exclude(email="")
    return {one.email.casefold(): one for one in held if one.email.casefold() in wanted}


def import_people(
    newcomers: Sequence[Newcomer], school: School, by: User, request: HttpRequest | None
) -> list[OneTimeLink]:
    """Make accounts, put them where they belong, and make the links that are to be mailed.

    All of it in one short transaction, by a few statements however many there are. A guardian who
    is known already, or comes for several children, gets one account.
    """
    now = clock.now()
    known = known_mails(school, (one.guardian_mail for one in newcomers))
    guardians: dict[str, User] = {}
    for one in newcomers:
        mail = one.guardian_mail.casefold()
        if mail and mail not in known and mail not in guardians:
            guardians[mail] = _account(one.guardian_name, one.guardian_mail, None)
    accounts = [_account(one.name, one.mail, one.born) for one in newcomers]
    with transaction.atomic():
        if known_mails(school, (one.mail for one in newcomers)):
            raise Conflict(
                gettext("Somebody with one of these mail addresses has just been added.")
            )
        User.objects.bulk_create([*accounts, *guardians.values()])
        every = [(person, one.role) for person, one in zip(accounts, newcomers, strict=True)]
        every += [(person, Role.GUARDIAN) for person in guardians.values()]
        Membership.objects.bulk_create(
            Membership(person=person, school=school, role=role, since=now) for person, role in every
        )
        _into_groups(list(zip(accounts, newcomers, strict=True)), now)
        by_mail = known | guardians
        pairs = [
            (by_mail[one.guardian_mail.casefold()], person)
            for person, one in zip(accounts, newcomers, strict=True)
            if one.guardian_mail
        ]
        _guard(pairs, school, now)
        links = OneTimeLink.objects.bulk_create(
            new_link(person, LinkKind.WELCOME, person.email, by, stored=False)
            for person, _ in every
        )
        AuditEntry.objects.bulk_create(
            audit(
                AuditKind.INVITED, request=request, account=person, by=by, says=role, stored=False
            )
            for person, role in every
        )
    return list(links)


def _account(name: str, mail: str, born: date | None) -> User:
    return User(
        username=f"invited-{uuid.uuid4().hex}",
        display_name=name,
        email=mail,
        born=born,
        password=make_password(None),
        date_joined=clock.now(),
    )


def _into_groups(people: list[tuple[User, Newcomer]], now: datetime) -> None:
    """Enrolments and places in groups; what is worked towards follows from the group."""
    placed = [(person, one.group, one.role) for person, one in people if one.group is not None]
    aims = {
        group.pk: AimsData.of(combined([group.settings.core()], OwnAimsData().core()))
        for _, group, role in placed
        if role is Role.LEARNER
    }
    learners = [(person, group) for person, group, role in placed if role is Role.LEARNER]
    enrolments = Enrolment.objects.bulk_create(
        Enrolment(person=person, course=group.course, since=now, aims=aims[group.pk])
        for person, group in learners
    )
    GroupMember.objects.bulk_create(
        GroupMember(group=group, enrolment=enrolment, since=now)
        for enrolment, (_, group) in zip(enrolments, learners, strict=True)
    )
    GroupTutor.objects.bulk_create(
        GroupTutor(group=group, person=person, since=now)
        for person, group, role in placed
        if role is Role.TUTOR
    )


def _guard(pairs: list[tuple[User, User]], school: School, now: datetime) -> None:
    """Guardians whom the office vouches for."""
    Guardianship.objects.bulk_create(
        Guardianship(guardian=guardian, learner=learner, vouched=True, since=now)
        for guardian, learner in pairs
    )
    held = set(
        Membership.objects.filter(school=school, role=Role.GUARDIAN, until=None).values_list(
            "person", flat=True
        )
    )
    missing = {guardian.pk: guardian for guardian, _ in pairs if guardian.pk not in held}
    Membership.objects.bulk_create(
        Membership(person=guardian, school=school, role=Role.GUARDIAN, since=now)
        for guardian in missing.values()
    )


def today() -> date:
    """The day it is at the school."""
    return timezone.localdate(clock.now())
