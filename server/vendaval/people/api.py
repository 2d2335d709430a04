"""Signing in and out, and who is signed in."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.utils.translation import gettext
from ninja import Router, Schema, Status

from vendaval.shared.codes import shown_code
from vendaval.shared.errors import NotFound
from vendaval.shared.health import health
from vendaval.shared.pace import refuse_many_codes

from .audit import audit
from .guardians import end_link, link_by_code, make_guardian_code
from .models import AuditKind, User
from .permissions import csrf_only, current_user, signed_in
from .policies import Relation, require
from .schemas import (
    AccountOut,
    CodeIn,
    CodeOut,
    DemoAccountOut,
    DemoSignInIn,
    LinkOut,
    LinksOut,
    SessionOut,
    SignInIn,
)
from .sessions import begin_session
from .sign_in import sign_in_with

router = Router(tags=["people"])


def session_out(request: HttpRequest) -> SessionOut:
    get_token(request)
    user = request.user
    account = None
    if isinstance(user, User):
        account = AccountOut(
            id=user.pk,
            name=user.display_name,
            roles=sorted(user.roles),
            practising=user.practice_for_id is not None,
        )
    demo = []
    if settings.DEMO_ACCOUNTS:
        rows = User.objects.exclude(demo_note="").filter(is_active=True).order_by("pk")[:12]
        demo = [
            DemoAccountOut(username=u.username, name=u.display_name, note=u.demo_note) for u in rows
        ]
    return SessionOut(account=account, demo_accounts=demo)


@router.get("/session", response=SessionOut, operation_id="get_session", auth=None)
def get_session(request: HttpRequest) -> SessionOut:
    """Who is signed in; also sets the CSRF cookie that every change needs."""
    return session_out(request)


@router.post("/session", response=SessionOut, operation_id="sign_in", auth=csrf_only)
def sign_in(request: HttpRequest, body: SignInIn) -> SessionOut:
    sign_in_with(request, body.username, body.password, body.code)
    return session_out(request)


@router.post("/session/demo", response=SessionOut, operation_id="sign_in_demo", auth=csrf_only)
def sign_in_demo(request: HttpRequest, body: DemoSignInIn) -> SessionOut:
    """One-click sign-in; only where demo accounts are switched on."""
    rows = User.objects.exclude(demo_note="").filter(username=body.username, is_active=True)
    user = rows.first() if settings.DEMO_ACCOUNTS else None
    if user is None:
        raise NotFound(gettext("We can’t find this demo account."))
    begin_session(request, user)
    audit(AuditKind.SIGNED_IN, request=request, account=user, says="demo")
    return session_out(request)


@router.delete("/session", response=SessionOut, operation_id="sign_out", auth=signed_in)
def sign_out(request: HttpRequest) -> SessionOut:
    audit(AuditKind.SIGNED_OUT, request=request, account=current_user(request))
    logout(request)
    return session_out(request)


@router.get("/links", response=LinksOut, operation_id="list_links", auth=signed_in)
def list_links(request: HttpRequest) -> LinksOut:
    """Who reads my pages as my guardian, and whose I read."""
    user = current_user(request)
    guardians = user.guardians.filter(until=None).select_related("guardian").order_by("pk")
    wards = user.wards.filter(until=None).select_related("learner").order_by("pk")
    return LinksOut(
        guardians=[
            LinkOut(id=one.pk, name=one.guardian.display_name, since=one.since) for one in guardians
        ],
        wards=[LinkOut(id=one.pk, name=one.learner.display_name, since=one.since) for one in wards],
    )


@router.post("/links/code", response=CodeOut, operation_id="make_guardian_code", auth=signed_in)
def guardian_code(request: HttpRequest) -> CodeOut:
    """A code for a guardian to type; it opens something once, within two days."""
    user = current_user(request)
    require("make_guardian_code", user.roles, Relation.OWN)
    code = make_guardian_code(user)
    return CodeOut(code=shown_code(code.code), ends_at=code.ends_at)


@router.post("/links", response=LinksOut, operation_id="link_ward", auth=signed_in)
def link_ward(request: HttpRequest, body: CodeIn) -> LinksOut:
    """Become the guardian of the learner who gave the code."""
    refuse_many_codes(request, current_user(request).pk)
    link_by_code(current_user(request), body.code, request)
    return list_links(request)


@router.delete("/links/{int:link_id}", response=LinksOut, operation_id="end_link", auth=signed_in)
def unlink(request: HttpRequest, link_id: int) -> LinksOut:
    """End a link; either side can."""
    end_link(current_user(request), link_id, request)
    return list_links(request)


class HealthOut(Schema):
    status: str
    database: str
    disk: str


@router.get("/health", response={200: HealthOut, 503: HealthOut}, operation_id="health", auth=None)
def get_health(request: HttpRequest) -> Status[HealthOut]:
    """Whether the database takes rows and the disk has room; 503 when not."""
    found = health()
    out = HealthOut(
        status="ok" if found.ok else "failing", database=found.database, disk=found.disk
    )
    return Status(200 if found.ok else 503, out)
