"""The people of a school as its office sees them: found, changed, closed. No answers."""

from __future__ import annotations

from collections.abc import Container, Iterable, Sequence
from datetime import date
from enum import StrEnum
from typing import Protocol

from django.contrib.auth.hashers import UNUSABLE_PASSWORD_PREFIX
from django.db import transaction
from django.db.models import Q, QuerySet
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.groups.actions import enrol, join_group, leave_group, leave_with_role, put_in_charge
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.writing import name_courses, named_courses
from vendaval.people.accounts import change_mail, checked_mail
from vendaval.people.actions import end_role, give_role, link_guardian
from vendaval.people.audit import audit
from vendaval.people.consent import give_consent, waits_for_consent
from vendaval.people.link_mails import mail_link
from vendaval.people.models import AuditKind, LinkKind, Membership, Role, School, User
from vendaval.people.one_time_links import end_links, new_link
from vendaval.people.sessions import end_sessions
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound, Unprocessable

from .newcomers import Newcomer, faults_of, import_people, known_mails, today
from .scope import named, people_of, refuse_of_two_schools

NO_PASSWORD = Q(password__startswith=UNUSABLE_PASSWORD_PREFIX)


class AccountState(StrEnum):
    """How an account stands: its owner has not come yet, a guardian has still to agree, it works,
    it is closed."""

    INVITED = "invited"
    WAITS = "waits"
    OPEN = "open"
    CLOSED = "closed"


class PersonWanted(Protocol):
    """What the office wants a person's data and roles to be."""

    name: str
    mail: str
    born: date | None
    roles: list[Role]
    writes: list[str]


def state_of(person: User, waiting: Container[int] | None = None) -> AccountState:
    """How an account stands now. waiting: who waits for a consent, if known."""
    if not person.is_active:
        return AccountState.CLOSED
    if not person.has_usable_password():
        return AccountState.INVITED
    waits = waits_for_consent(person) if waiting is None else person.pk in waiting
    return AccountState.WAITS if waits else AccountState.OPEN


def found_people(
    school: School, text: str = "", role: Role | None = None, state: AccountState | None = None
) -> QuerySet[User]:
    """People of a school by what is asked for, by name."""
    rows = people_of(school)
    if text:
        rows = rows.filter(named(text))
    if role is not None:
        holding = Q(memberships__role=role, memberships__until=None, memberships__school=school)
        rows = rows.filter(holding)
    if state is AccountState.CLOSED:
        rows = rows.filter(is_active=False)
    elif state is AccountState.INVITED:
        rows = rows.filter(NO_PASSWORD, is_active=True)
    elif state is not None:
        rows = rows.filter(is_active=True).exclude(NO_PASSWORD)
        young = Q(pk__in=below_consent(school).values("pk"))
        rows = rows.filter(young) if state is AccountState.WAITS else rows.exclude(young)
    return rows.order_by("display_name", "pk")


def below_consent(school: School) -> QuerySet[User]:
    """Learners of a school for whom a guardian has still to agree."""
    day = today()
    try:
        since = day.replace(year=day.year - school.consent_until)
    except ValueError:
        since = date(day.year - school.consent_until, 2, 28)
    learns = Membership.objects.filter(role=Role.LEARNER, until=None, school=school)
    young = User.objects.filter(pk__in=learns.values("person"), born__gt=since)
    return young.exclude(consented=True)


def invite(one: Newcomer, school: School, by: User, request: HttpRequest) -> User:
    """Take one person in and write to them, and to their guardian."""
    faults = faults_of(one, school, today())
    if one.mail.casefold() in known_mails(school, [one.mail]):
        faults.append(gettext("Somebody at your school already has this mail address."))
    if faults:
        raise Unprocessable(" ".join(faults))
    checked_mail(one.mail)
    if one.guardian_mail:
        checked_mail(one.guardian_mail)
    links = import_people([one], school, by, request)
    for link in links:
        mail_link(link)
    return links[0].person


def write_again(person: User, by: User, request: HttpRequest) -> None:
    """A new link: to come in for who has not, for a new password to who has."""
    if not person.is_active or not person.email:
        raise Conflict(
            gettext("This account is closed or has no mail address."), code="cannot_write"
        )
    new = person.has_usable_password()
    mail_link(new_link(person, LinkKind.RESET if new else LinkKind.WELCOME, person.email, by))
    kind = AuditKind.RESET_ASKED if new else AuditKind.INVITED
    audit(kind, request=request, account=person, by=by, says=gettext("by the office"))


def change_person(
    person: User, school: School, wanted: PersonWanted, by: User, request: HttpRequest
) -> None:
    """Another name, mail address, day of birth, or other roles: all of it, or nothing."""
    with transaction.atomic():
        _set_roles(person, school, wanted.roles, by, request)
        writes = wanted.writes if Role.AUTHOR in wanted.roles else []
        _set_courses(person, school, writes, by, request)
        _set_data(person, school, wanted.name, wanted.mail, wanted.born, by, request)


def _set_data(
    person: User,
    school: School,
    name: str,
    mail: str,
    born: date | None,
    by: User,
    request: HttpRequest,
) -> None:
    mail = checked_mail(mail) if mail else ""
    taken = User.objects.filter(email__iexact=mail, is_active=True).exclude(pk=person.pk)
    if mail and taken.exists():
        says = gettext("Somebody else already has this mail address.")
        raise Unprocessable(says, fields={"mail": says})
    changed = [
        what
        for what, before, after in (
            ("name", person.display_name, name),
            ("mail", person.email, mail),
            (gettext("date of birth"), person.born, born),
        )
        if before != after
    ]
    if not changed:
        return
    if mail.casefold() != person.email.casefold():
        refuse_of_two_schools(person, school)
        change_mail(person, mail)
    person.display_name, person.email, person.born = name, mail, born
    person.save(update_fields=["display_name", "email", "born"])
    audit(AuditKind.PERSON, request=request, account=person, by=by, says=", ".join(changed))


def _set_roles(
    person: User, school: School, roles: Iterable[Role], by: User, request: HttpRequest
) -> None:
    """Which roles somebody holds at the school from now on. Nobody takes their own office away,
    so that somebody is left to give it back."""
    wanted = set(roles)
    rows = person.memberships.filter(school=school, until=None)
    held = {Role(name) for name in rows.values_list("role", flat=True)}
    if person.pk == by.pk and Role.OFFICE in held - wanted:
        raise Conflict(
            gettext("Only another office user can remove your office role."), code="own_office"
        )
    for role in sorted(wanted - held):
        give_role(person, school, role)
        audit(
            AuditKind.ROLE,
            request=request,
            account=person,
            by=by,
            says=gettext("{role} given").format(role=role),
        )
    for role in sorted(held - wanted):
        end_role(person, school, role)
        leave_with_role(person, school, role)
        audit(
            AuditKind.ROLE,
            request=request,
            account=person,
            by=by,
            says=gettext("{role} ended").format(role=role),
        )


def _set_courses(
    person: User, school: School, writes: Sequence[str], by: User, request: HttpRequest
) -> None:
    """Which courses an author's writing is kept to."""
    if sorted(writes) == named_courses(person, school):
        return
    name_courses(person, school, writes)
    which = ", ".join(writes) or gettext("all courses")
    says = gettext("writes for {courses}").format(courses=which)
    audit(AuditKind.ROLE, request=request, account=person, by=by, says=says)


def close(person: User, school: School, by: User, request: HttpRequest) -> None:
    """The account opens nothing until it is opened again; what was done in it stays."""
    if person.pk == by.pk:
        raise Conflict(
            gettext("Only another office user can close your account."), code="own_account"
        )
    refuse_of_two_schools(person, school)
    with transaction.atomic():
        User.objects.filter(pk=person.pk).update(is_active=False)
        person.one_time_links.filter(used_at=None).delete()
        end_sessions(person)
        audit(AuditKind.CLOSED, request=request, account=person, by=by)


def reopen(person: User, by: User, request: HttpRequest) -> None:
    with transaction.atomic():
        User.objects.filter(pk=person.pk).update(is_active=True)
        audit(AuditKind.REOPENED, request=request, account=person, by=by)


def sign_out(person: User, by: User, request: HttpRequest) -> None:
    """End every session of somebody."""
    with transaction.atomic():
        end_links(person)
        end_sessions(person)
        audit(AuditKind.SIGNED_OUT_ALL, request=request, account=person, by=by)


def note_consent(person: User, agreed: bool, guardian: str, by: User, request: HttpRequest) -> None:
    """A guardian's word that came on paper."""
    give_consent(person, agreed, by=by, named=guardian, request=request, on_paper=True)


def name_guardian(
    person: User, school: School, name: str, mail: str, by: User, request: HttpRequest
) -> None:
    """Link a guardian whom the office knows; one who is new here is invited."""
    mail = checked_mail(mail)
    if mail.casefold() == person.email.casefold():
        raise Unprocessable(gettext("The guardian and the learner have the same mail address."))
    known = known_mails(school, [mail]).get(mail.casefold())
    if known is None:
        known = invite(Newcomer(name, mail, Role.GUARDIAN), school, by, request)
    with transaction.atomic():
        give_role(known, school, Role.GUARDIAN)
        link_guardian(known, person, vouched=True)
        audit(AuditKind.GUARDIAN_LINKED, request=request, account=person, by=by)


def end_guardian(person: User, link_id: int, by: User, request: HttpRequest) -> None:
    """A guardian reads no more, and their consent stays as it was given."""
    ended = person.guardians.filter(pk=link_id, until=None).update(until=clock.now())
    if not ended:
        raise NotFound(gettext("We can’t find this link."))
    audit(AuditKind.GUARDIAN_ENDED, request=request, account=person, by=by)


def add_to(group: Group, person: User, role: Role, by: User, request: HttpRequest) -> None:
    """Let somebody learn in a group, or teach it."""
    with transaction.atomic():
        if role is Role.TUTOR:
            put_in_charge(group, person)
        else:
            join_group(group, enrol(person, group.course))
        says = f"{group.title}: {role}"
        audit(AuditKind.JOINED_GROUP, request=request, account=person, by=by, says=says)


def remove_from(group: Group, person: User, by: User, request: HttpRequest) -> None:
    """Somebody learns in a group no more, nor teaches it."""
    with transaction.atomic():
        for enrolment in Enrolment.objects.filter(person=person, course=group.course):
            leave_group(group, enrolment)
        group.tutors.filter(person=person, until=None).update(until=clock.now())
        says = group.title
        audit(AuditKind.LEFT_GROUP, request=request, account=person, by=by, says=says)
