"""Platforms that may launch: let in by the office."""

from __future__ import annotations

from django.db.models import Count
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.lti.models import Platform
from vendaval.lti.platforms import MOST, new_platform, store_platform
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound

from .platform_schemas import PlatformEdit, PlatformIn, PlatformOut, PlatformsOut, ToolOut


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
    store_platform(new_platform(school), body.model_dump())
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
        store_platform(row, body.model_dump(exclude={"version"}))
        says = gettext("{name} was changed").format(name=body.name)
        audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)
