"""Who is in a platform's course: its members fill the group here, when a tutor asks for it."""

from __future__ import annotations

from typing import Any, cast

from django.utils.translation import gettext
from pylti1p3.exception import LtiException
from pylti1p3.names_roles import NamesRolesProvisioningService
from pylti1p3.service_connector import ServiceConnector
from requests.exceptions import RequestException

from vendaval.people.models import Role
from vendaval.shared.errors import Conflict, Unprocessable

from .launching import Arrival, account_of, take_in
from .models import PlatformContext
from .scopes import CLAIM
from .tool import our_requests, registration_of

MOST, MOST_PAGES = 400, 8


def fill_group(context: PlatformContext) -> int:
    """Take everybody in who learns in the platform's course; how many that are.
    Conflict where the platform doesn't tell."""
    if not context.members_url:
        raise Conflict(gettext("The platform doesn’t tell who is in its course."), code="not_told")
    connector = ServiceConnector(registration_of(context.platform), our_requests())
    service = {"context_memberships_url": context.members_url}
    try:
        members = _members(NamesRolesProvisioningService(connector, cast(Any, service)))
    except (LtiException, RequestException, ValueError, KeyError) as error:
        says = gettext("The platform can’t be asked: {why}").format(why=str(error)[:200])
        raise Unprocessable(says) from error
    taken = 0
    for member in members:
        taken += _take(context, member)
    return taken


def _members(service: NamesRolesProvisioningService) -> list[dict[str, Any]]:
    """So many at most, in so many pages, however many the platform would tell."""
    found: list[dict[str, Any]] = []
    address: str | None = None
    for _ in range(MOST_PAGES):
        page, address = service.get_members_page(address)
        found += cast("list[dict[str, Any]]", page)
        if address is None or len(found) >= MOST:
            break
    return found[:MOST]


def _take(context: PlatformContext, member: dict[str, Any]) -> bool:
    if member.get("status", "Active") != "Active" or not member.get("user_id"):
        return False
    says = member | {"sub": member["user_id"], f"{CLAIM}roles": member.get("roles", [])}
    arrival = Arrival(context.platform, says)
    try:
        if arrival.role is Role.TUTOR:
            # A list makes nobody a tutor: they come by a launch of their own.
            return False
    except Conflict:
        return False
    take_in(arrival, account_of(arrival).person, context)
    return True
