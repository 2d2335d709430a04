"""Endpoints of a person's own account, and of the links that are mailed."""

from __future__ import annotations

import segno
from django.http import HttpRequest
from ninja import Router

from vendaval.shared import clock

from . import accounts
from .account_schemas import (
    AskedOut,
    ConsentIn,
    ConsentOut,
    ConsentsOut,
    FactorIn,
    FactorOut,
    KnownIn,
    LinkOpenOut,
    LinkUsedOut,
    MailIn,
    NewMailIn,
    OwnAccountOut,
    OwnSessionOut,
    PasswordIn,
    SparesOut,
    UseLinkIn,
)
from .consent import give_consent, waits_for_consent, ward_of, wording_for
from .models import AccountSession, LinkKind, Role, User
from .one_time_links import link_of
from .permissions import csrf_only, current_user, signed_in
from .second_factor import STAFF, begin_factor, confirm_factor, factor_of, remove_factor

router = Router(auth=signed_in, tags=["account"])
MOST_SESSIONS = 30


def _account(request: HttpRequest) -> OwnAccountOut:
    person = current_user(request)
    mine = AccountSession.objects.filter(person=person, expire_date__gt=clock.now())
    rows = mine.order_by("-since")[:MOST_SESSIONS]
    factor = factor_of(person)
    asked = person.one_time_links.filter(
        kind=LinkKind.MAIL, used_at=None, ends_at__gt=clock.now()
    ).last()
    return OwnAccountOut(
        username=person.username,
        mail=person.email,
        new_mail=asked.mail if asked else None,
        sessions=[
            OwnSessionOut(
                since=row.since,
                address=row.address,
                agent=row.agent,
                here=row.session_key == request.session.session_key,
            )
            for row in rows
        ],
        factor=factor is not None if person.roles & STAFF else None,
        spares=len(factor.spares) if factor else 0,
    )


@router.get("/account", response=OwnAccountOut, operation_id="get_account")
def get_account(request: HttpRequest) -> OwnAccountOut:
    """My mail address, where I am signed in, and my second factor."""
    return _account(request)


@router.post("/account/password", response=OwnAccountOut, operation_id="change_password")
def change_password(request: HttpRequest, body: PasswordIn) -> OwnAccountOut:
    """A new password; other browsers are signed out."""
    accounts.change_password(request, current_user(request), body.old, body.password)
    return _account(request)


@router.post("/account/mail", response=OwnAccountOut, operation_id="change_mail")
def change_mail(request: HttpRequest, body: NewMailIn) -> OwnAccountOut:
    """Another mail address: it counts once the link sent to it is opened."""
    accounts.ask_new_mail(request, current_user(request), body.old, body.mail)
    return _account(request)


@router.delete("/account/sessions", response=OwnAccountOut, operation_id="sign_out_everywhere")
def sign_out_everywhere(request: HttpRequest) -> OwnAccountOut:
    """Sign every browser out but this one."""
    accounts.sign_out_everywhere(request, current_user(request))
    return _account(request)


@router.post("/account/second-factor", response=FactorOut, operation_id="start_second_factor")
def start_second_factor(request: HttpRequest, body: KnownIn) -> FactorOut:
    """A secret for my device; nothing is asked for until it is confirmed."""
    person = current_user(request)
    accounts.refuse_unless_known(request, person, body.old)
    secret, address = begin_factor(person)
    picture = segno.make(address, error="m").svg_inline(scale=4, border=4)
    return FactorOut(secret=secret, picture=picture)


@router.put("/account/second-factor", response=SparesOut, operation_id="confirm_second_factor")
def confirm_second_factor(request: HttpRequest, body: FactorIn) -> SparesOut:
    return SparesOut(spares=confirm_factor(current_user(request), body.code, request))


@router.delete("/account/second-factor", response=OwnAccountOut, operation_id="end_second_factor")
def end_second_factor(request: HttpRequest, body: KnownIn) -> OwnAccountOut:
    """It is asked for no more."""
    person = current_user(request)
    accounts.refuse_unless_known(request, person, body.old)
    remove_factor(person, person, request)
    return _account(request)


def _consents(guardian: User) -> ConsentsOut:
    links = guardian.wards.filter(until=None, vouched=True).select_related("learner").order_by("pk")
    found = []
    for link in links:
        last = link.learner.consents.order_by("-pk").first()
        waits = waits_for_consent(link.learner)
        learns = link.learner.memberships.filter(role=Role.LEARNER, until=None).exists()
        if learns and (waits or last is not None):
            found.append(
                ConsentOut(
                    id=link.pk,
                    learner=link.learner.display_name,
                    wording=wording_for(link.learner),
                    agreed=last.agreed if last else None,
                    at=last.at if last else None,
                    waits=waits,
                )
            )
    return ConsentsOut(consents=found)


@router.get("/consents", response=ConsentsOut, operation_id="list_consents")
def list_consents(request: HttpRequest) -> ConsentsOut:
    """What I am asked as a guardian, and what I said."""
    return _consents(current_user(request))


@router.put("/consents/{int:link_id}", response=ConsentsOut, operation_id="give_consent")
def consent(request: HttpRequest, link_id: int, body: ConsentIn) -> ConsentsOut:
    """I agree, or agree no more, that a learner of mine has an account."""
    person = current_user(request)
    learner = ward_of(person, link_id)
    give_consent(learner, body.agreed, by=person, named=person.display_name, request=request)
    return _consents(person)


@router.post("/reset", response=AskedOut, operation_id="ask_reset", auth=csrf_only)
def ask_reset(request: HttpRequest, body: MailIn) -> AskedOut:
    """A link for a new password goes to this address, if an account has it."""
    accounts.ask_reset(request, body.mail.strip())
    return AskedOut()


@router.get("/open/{token}", response=LinkOpenOut, operation_id="get_link", auth=None)
def get_link(request: HttpRequest, token: str) -> LinkOpenOut:
    """What a mailed link opens; looking uses nothing up."""
    link = link_of(token)
    welcome = link.kind == LinkKind.WELCOME
    return LinkOpenOut(
        kind=LinkKind(link.kind),
        name=link.person.display_name,
        mail=link.mail,
        username=accounts.suggested_name(link.person, link.mail) if welcome else "",
        consent=waits_for_consent(link.person),
    )


@router.post("/open/{token}", response=LinkUsedOut, operation_id="use_link", auth=csrf_only)
def use_link(request: HttpRequest, token: str, body: UseLinkIn) -> LinkUsedOut:
    """Do what a mailed link is for; it opens nothing after that."""
    kind = LinkKind(link_of(token).kind)
    if kind is LinkKind.WELCOME:
        person = accounts.accept_invitation(request, token, body.username, body.password)
    elif kind is LinkKind.RESET:
        person = accounts.reset_password(request, token, body.password)
    elif kind is LinkKind.UNDO_MAIL:
        person = accounts.undo_mail(request, token)
    else:
        person = accounts.confirm_mail(request, token)
    signed_in_now = getattr(request.user, "pk", None) == person.pk
    return LinkUsedOut(kind=kind, signed_in=signed_in_now, waits=waits_for_consent(person))
