"""Signing in and out, and who is signed in."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status

from vendaval.shared.errors import NotFound
from vendaval.shared.health import health

from .audit import audit
from .models import AuditKind, User
from .permissions import csrf_only, current_user, signed_in
from .schemas import AccountOut, DemoAccountOut, DemoSignInIn, SessionOut, SignInIn
from .sign_in import sign_in_with

router = Router(tags=["people"])


def _session(request: HttpRequest) -> SessionOut:
    get_token(request)
    user = request.user
    account = None
    if isinstance(user, User):
        account = AccountOut(id=user.pk, name=user.display_name, roles=sorted(user.roles))
    demo = []
    if settings.DEMO_ACCOUNTS:
        rows = User.objects.exclude(demo_note="").filter(is_active=True).order_by("pk")[:12]
        demo = [
            DemoAccountOut(username=u.username, name=u.display_name, note=u.demo_note) for u in rows
        ]
    return SessionOut(account=account, demo_accounts=demo)


@router.get("/session", response=SessionOut, operation_id="get_session", auth=None)
def session(request: HttpRequest) -> SessionOut:
    """Who is signed in; also sets the CSRF cookie that every change needs."""
    return _session(request)


@router.post("/session", response=SessionOut, operation_id="sign_in", auth=csrf_only)
def sign_in(request: HttpRequest, body: SignInIn) -> SessionOut:
    sign_in_with(request, body.username, body.password)
    return _session(request)


@router.post("/session/demo", response=SessionOut, operation_id="sign_in_demo", auth=csrf_only)
def sign_in_demo(request: HttpRequest, body: DemoSignInIn) -> SessionOut:
    """One-click sign-in; only where demo accounts are switched on."""
    rows = User.objects.exclude(demo_note="").filter(username=body.username, is_active=True)
    user = rows.first() if settings.DEMO_ACCOUNTS else None
    if user is None:
        raise NotFound("There is no such demo account.")
    login(request, user)
    audit(AuditKind.SIGNED_IN, request=request, account=user, says="demo")
    return _session(request)


@router.delete("/session", response=SessionOut, operation_id="sign_out", auth=signed_in)
def sign_out(request: HttpRequest) -> SessionOut:
    audit(AuditKind.SIGNED_OUT, request=request, account=current_user(request))
    logout(request)
    return _session(request)


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
