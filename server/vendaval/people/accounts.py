"""What people do with their own accounts: come in, choose a password, another mail address."""

from __future__ import annotations

import re
from datetime import timedelta
from secrets import token_urlsafe

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.errors import Conflict, DomainError, NotFound, TooMany, Unprocessable
from vendaval.shared.requests import client_address

from .audit import audit
from .consent import waits_for_consent
from .link_mails import mail_link
from .models import AuditEntry, AuditKind, LinkKind, OneTimeLink, User
from .one_time_links import end_links, link_of, new_link
from .sessions import begin_session, end_sessions
from .sign_in import hashing_slot, key_of_name, refuse_if_too_often

NAME = re.compile(r"[\w.@+-]{3,60}")
ASKED_WINDOW = timedelta(hours=1)
MOST_ASKED = 3
MOST_ASKED_HERE = 20


def accept_invitation(request: HttpRequest, token: str, username: str, password: str) -> User:
    """The account becomes its owner's: a name to sign in with and a password. They are signed in,
    unless a guardian has still to agree."""
    link = _link(token, LinkKind.WELCOME)
    person = link.person
    _check_name(username, person)
    person.username = username
    _set_password(person, password)
    with transaction.atomic():
        person.save(update_fields=["username", "password"])
        _use(link)
        audit(AuditKind.ACCEPTED, request=request, account=person)
    if not waits_for_consent(person):
        begin_session(request, person)
    return person


def ask_reset(request: HttpRequest, mail: str) -> None:
    """Mail a link to whoever has this address; nobody is told whether there is such an account."""
    now, named, address = clock.now(), key_of_name(mail), client_address(request)
    asked = AuditEntry.objects.filter(kind=AuditKind.RESET_ASKED, at__gt=now - ASKED_WINDOW)
    if asked.filter(address=address).count() >= MOST_ASKED_HERE:
        raise TooMany(gettext("You’ve asked too often. Wait an hour."), code="wait", after=3600)
    often = asked.filter(named=named).count() >= MOST_ASKED
    people = [] if often else list(User.objects.filter(email__iexact=mail, is_active=True)[:5])
    audit(AuditKind.RESET_ASKED, request=request, named=named)
    for person in people:
        if person.has_usable_password() and person.practice_for_id is None:
            mail_link(new_link(person, LinkKind.RESET, person.email))


def reset_password(request: HttpRequest, token: str, password: str) -> User:
    """A new password by a mailed link; whoever was signed in with the old one is no more."""
    link = _link(token, LinkKind.RESET)
    _set_password(link.person, password)
    with transaction.atomic():
        link.person.save(update_fields=["password"])
        _use(link)
        end_links(link.person)
        end_sessions(link.person)
        audit(AuditKind.PASSWORD_SET, request=request, account=link.person, says="by a link")
    return link.person


def refuse_unless_known(request: HttpRequest, person: User, password: str) -> None:
    """DomainError unless this is their password: what others could take an account with is changed
    by nobody who only found its browser open. A wrong one counts like a failed sign-in."""
    named = key_of_name(person.username)
    refuse_if_too_often(request, named)
    with hashing_slot():
        knows = person.check_password(password)
    if not knows:
        audit(AuditKind.SIGN_IN_FAILED, request=request, account=person, named=named)
        says = gettext("That isn’t your password.")
        raise DomainError(says, code="wrong_credentials", fields={"old": says})


def change_password(request: HttpRequest, person: User, old: str, new: str) -> None:
    """A new password for somebody who knows the old one; other browsers are signed out."""
    refuse_unless_known(request, person, old)
    _set_password(person, new)
    with transaction.atomic():
        person.save(update_fields=["password"])
        end_links(person)
        end_sessions(person)
        audit(AuditKind.PASSWORD_SET, request=request, account=person, by=person)
    begin_session(request, person)


def ask_new_mail(request: HttpRequest, person: User, old: str, mail: str) -> OneTimeLink:
    """A link to the new address, for somebody who knows the password; it is theirs once they have
    opened that."""
    mail = checked_mail(mail)
    refuse_unless_known(request, person, old)
    refuse_name_of_another(mail, person)
    if mail.casefold() == person.email.casefold():
        raise Conflict(gettext("This is already your address."), code="same_mail")
    link = new_link(person, LinkKind.MAIL, mail)
    mail_link(link)
    return link


def confirm_mail(request: HttpRequest, token: str) -> User:
    """The new address counts from now on; the one before is told, and can take it back."""
    link = _link(token, LinkKind.MAIL)
    person = link.person
    with transaction.atomic():
        _use(link)
        change_mail(person, link.mail)
        audit(AuditKind.MAIL_CHANGED, request=request, account=person)
    return person


def change_mail(person: User, mail: str) -> None:
    """Give somebody another address, whoever asked for it. Open links end, and the address before
    is told and can take it back for a week."""
    refuse_name_of_another(mail, person)
    before, person.email = person.email, mail
    person.save(update_fields=["email"])
    end_links(person)
    if before and person.has_usable_password():
        mail_link(new_link(person, LinkKind.UNDO_MAIL, before))


def undo_mail(request: HttpRequest, token: str) -> User:
    """The address before counts again. Whoever changed it may know the password, so everybody is
    signed out, no link opens anything, and a new password can be set from the old address."""
    link = _link(token, LinkKind.UNDO_MAIL)
    person = link.person
    with hashing_slot():
        person.set_password(token_urlsafe(32))
    with transaction.atomic():
        _use(link)
        person.email = link.mail
        person.save(update_fields=["email", "password"])
        person.one_time_links.filter(used_at=None).delete()
        end_sessions(person)
        audit(AuditKind.MAIL_CHANGED, request=request, account=person, says="withdrawn")
        mail_link(new_link(person, LinkKind.RESET, person.email))
    return person


def sign_out_everywhere(request: HttpRequest, person: User) -> int:
    """End every session of somebody but the one that asks, and every open link."""
    end_links(person)
    ended = end_sessions(person, but=request.session.session_key)
    audit(AuditKind.SIGNED_OUT_ALL, request=request, account=person, by=person)
    return ended


def checked_mail(mail: str) -> str:
    """A mail address as it is kept; Unprocessable when it is none."""
    try:
        validate_email(mail.strip())
    except ValidationError as error:
        says = gettext("This isn’t a mail address.")
        raise Unprocessable(says, fields={"mail": says}) from error
    return mail.strip()


def suggested_name(person: User, mail: str) -> str:
    """A name to sign in with that nobody has."""
    base = re.sub(r"[^\w.+-]", "", mail.partition("@")[0].lower())[:50] or "person"
    base = base if len(base) >= 3 else f"{base}.{person.pk}"
    taken = User.objects.filter(username__iexact=base).exclude(pk=person.pk).exists()
    return f"{base}{person.pk}" if taken else base


def _check_name(username: str, person: User) -> None:
    says = ""
    if NAME.fullmatch(username) is None:
        says = gettext("Use 3 to 60 letters, digits or . @ + - _, without spaces.")
    elif User.objects.filter(username__iexact=username).exclude(pk=person.pk).exists():
        says = gettext("Somebody else has this user name.")
    elif "@" in username and username.casefold() != person.email.casefold():
        says = gettext(
            "A user name with @ looks like a mail address. Use your own address, or leave "
            "out the @."
        )
    if says:
        raise Unprocessable(says, fields={"username": says})


def refuse_name_of_another(mail: str, person: User) -> None:
    """Unprocessable for an address that somebody else signs in with as their name."""
    others = User.objects.filter(username__iexact=mail).exclude(pk=person.pk)
    if mail and others.exists():
        says = gettext("Somebody else uses this as their user name.")
        raise Unprocessable(says, fields={"mail": says})


def _set_password(person: User, password: str) -> None:
    try:
        validate_password(password, person)
    except ValidationError as error:
        says = " ".join(error.messages)
        raise Unprocessable(says, fields={"password": says}) from error
    with hashing_slot():
        person.set_password(password)


def _link(token: str, kind: LinkKind) -> OneTimeLink:
    link = link_of(token)
    if link.kind != kind:
        raise NotFound(gettext("This link is for something else."))
    return link


def _use(link: OneTimeLink) -> None:
    used = OneTimeLink.objects.filter(pk=link.pk, used_at=None).update(used_at=clock.now())
    if not used:
        raise NotFound(gettext("This link has already been used."))
