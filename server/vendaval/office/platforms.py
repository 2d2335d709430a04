"""Platforms that may launch: let in by the office."""

from __future__ import annotations

from django.db import IntegrityError, transaction
from django.db.models import Count
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.lti.models import Platform
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared import clock
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval.shared.outgoing import address_fault

from .platform_schemas import PlatformEdit, PlatformIn, PlatformOut, PlatformsOut, ToolOut

ADDRESSES = ("login_url", "token_url", "keys_url")
MOST = 50


def platforms_out(school: School, request: HttpRequest) -> PlatformsOut:
    """A school's platforms, and what they have to know of us."""
    rows = Platform.objects.filter(school=school).annotate(people=Count("accounts"))

    def at(path: str) -> str:
        return request.build_absolute_uri(f"/lti/{path}")

    ours = ToolOut(
        login=at("login"), launch=at("launch"), keys=at("keys"), registration=at("register")
    )
    return PlatformsOut(platforms=[_out(row) for row in rows.order_by("pk")[:MOST]], ours=ours)


def platform_edit(row: Platform) -> PlatformEdit:
    """What of it can be edited."""
    return PlatformEdit.model_construct(
        **{name: getattr(row, name) for name in PlatformEdit.model_fields}
    )


def _out(row: Platform) -> PlatformOut:
    edit = platform_edit(row)
    people = vars(row).get("people", 0)
    version = edit_version(edit)
    return PlatformOut(**edit.model_dump(), id=row.pk, version=version, people=people)


def add_platform(school: School, body: PlatformEdit, by: User, request: HttpRequest) -> None:
    """Let a platform in."""
    if Platform.objects.filter(school=school).count() >= MOST:
        raise Unprocessable(gettext("There are {most} platforms already.").format(most=MOST))
    _store(Platform(school=school, made_at=clock.now()), body)
    says = gettext("{name} may launch").format(name=body.name)
    audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)


def change_platform(
    school: School, number: int, body: PlatformIn, by: User, request: HttpRequest
) -> None:
    """Change what is known of a platform, or let it in no more."""
    row = Platform.objects.filter(school=school, pk=number).first()
    if row is None:
        raise NotFound(gettext("Your school has no such platform."))
    with editing(row, body, lambda: platform_edit(row)):
        _store(row, body)
        says = gettext("{name} was changed").format(name=body.name)
        audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)


def _store(row: Platform, body: PlatformEdit) -> None:
    found = {name: fault for name in ADDRESSES if (fault := address_fault(getattr(body, name)))}
    if found:
        raise Unprocessable(gettext("Some addresses can’t be used."), fields=found)
    for name in PlatformEdit.model_fields:
        setattr(row, name, getattr(body, name))
    try:
        with transaction.atomic():
            row.save()
    except IntegrityError:
        says = gettext("This platform is known already, by this issuer and client id.")
        raise Unprocessable(says, fields={"client_id": says}) from None
