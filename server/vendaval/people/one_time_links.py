"""Addresses that open something once. The token is made from the row and the server's secret, so
that whoever reads the database alone cannot open anything."""

from __future__ import annotations

from datetime import timedelta
from secrets import token_urlsafe

from django.db.models import QuerySet
from django.utils import timezone
from django.utils.crypto import constant_time_compare, salted_hmac
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .addresses import site_for
from .models import LinkKind, OneTimeLink, User

LASTS = {
    LinkKind.WELCOME: timedelta(days=14),
    LinkKind.RESET: timedelta(hours=1),
    LinkKind.MAIL: timedelta(days=1),
    LinkKind.UNDO_MAIL: timedelta(days=7),
}
DIGITS = 40


def new_link(
    person: User, kind: LinkKind, mail: str, by: User | None = None, *, stored: bool = True
) -> OneTimeLink:
    """A link to somebody's mail address; those before it of its kind open nothing any more."""
    now = clock.now()
    link = OneTimeLink(
        person=person,
        kind=kind,
        mail=mail,
        nonce=token_urlsafe(18),
        by=by,
        made_at=now,
        ends_at=now + LASTS[kind],
    )
    if stored:
        if kind is not LinkKind.UNDO_MAIL:
            person.one_time_links.filter(kind=kind, used_at=None).delete()
        link.save()
    return link


def end_links(person: User) -> None:
    """End every open link of somebody whose way in has changed: whoever had one must not come in
    by it any more. A link that takes a change of address back stays, for a thief with the password
    must not be able to end it."""
    rows = person.one_time_links.filter(used_at=None).exclude(kind=LinkKind.UNDO_MAIL)
    rows.delete()


def token_of(link: OneTimeLink) -> str:
    """What stands in the link's address."""
    made = salted_hmac("vendaval.one-time", f"{link.pk}:{link.nonce}", algorithm="sha256")
    return f"{link.pk}-{made.hexdigest()[:DIGITS]}"


def open_links() -> QuerySet[OneTimeLink]:
    """Links that open something now."""
    rows = OneTimeLink.objects.filter(used_at=None, ends_at__gt=clock.now(), person__is_active=True)
    return rows.select_related("person")


def link_of(token: str) -> OneTimeLink:
    """The link of a token that opens something now; NotFound for any other."""
    number, _, _ = token.partition("-")
    found = open_links().filter(pk=int(number)).first() if _is_number(number) else None
    if found is None or not constant_time_compare(token_of(found), token):
        raise NotFound(
            gettext(
                "This link doesn’t work any more. Links work once, for a limited time. Ask "
                "for a new one."
            )
        )
    return found


def _is_number(text: str) -> bool:
    return text.isascii() and text.isdigit() and len(text) <= 18


def letter_of(link: OneTimeLink) -> tuple[str, str]:
    """Subject and text of the mail that brings a link."""
    address = f"{site_for(link.person)}/open/{token_of(link)}"
    until = f"{timezone.localtime(link.ends_at):%A %-d %B, %H:%M}"
    name = link.person.display_name
    subject, says = {
        LinkKind.WELCOME: (
            gettext("Your account in Vendaval"),
            gettext("your account is ready. Choose a user name and a password here:"),
        ),
        LinkKind.RESET: (
            gettext("A new password for Vendaval"),
            gettext("somebody, probably you, asked for a new password. Choose it here:"),
        ),
        LinkKind.MAIL: (
            gettext("Your new mail address in Vendaval"),
            (
                gettext(
                    "you asked us to write to this address from now on. If that’s right, open "
                    "this link:"
                )
            ),
        ),
        LinkKind.UNDO_MAIL: (
            gettext("Your mail address was changed"),
            (
                gettext(
                    "we now write to your new address. If this wasn’t you, open this link. It "
                    "brings the old address back and signs everybody out:"
                )
            ),
        ),
    }[LinkKind(link.kind)]
    end = gettext(
        "This link works once, until {until}. If you didn’t expect this mail, ignore it."
    ).format(until=until)
    return subject, f"{name},\n\n{says}\n\n{address}\n\n{end}"
