"""A platform that registers us by itself (LTI dynamic registration, 1EdTech, from memory), once
somebody of the office has said so."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import urlsplit

from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared.errors import Unprocessable
from vendaval.shared.outgoing import address_fault, ask

from .models import Platform
from .platforms import new_platform, store_platform
from .scopes import MEMBERS, SCORE

TOOL = "https://purl.imsglobal.org/spec/lti-tool-configuration"
PLATFORM = "https://purl.imsglobal.org/spec/lti-platform-configuration"
NEEDED = ("issuer", "authorization_endpoint", "token_endpoint", "jwks_uri", "registration_endpoint")


def configuration(url: str) -> dict[str, Any]:
    """What a platform says of itself. Unprocessable for what is none, or says another's."""
    reply = ask("GET", url, headers={"Accept": "application/json"})
    says = gettext("The platform doesn’t say how it is configured.")
    try:
        found = json.loads(reply.body)
    except ValueError:
        raise Unprocessable(says) from None
    if reply.status != 200 or not isinstance(found, dict):
        raise Unprocessable(says)
    if any(not isinstance(found.get(name), str) for name in NEEDED):
        raise Unprocessable(says)
    if urlsplit(found["issuer"]).netloc != urlsplit(url).netloc:
        raise Unprocessable(gettext("What it says of itself comes from another server."))
    for name in NEEDED:
        if fault := address_fault(found[name]):
            raise Unprocessable(f"{name}: {fault}")
    return found


def register(
    school: School, known: dict[str, Any], token: str, by: User, request: HttpRequest
) -> Platform:
    """Be registered with a platform, and let it in: its learners only, until the office says
    more."""
    sent = {"Content-Type": "application/json", "Accept": "application/json"}
    if token:
        sent["Authorization"] = f"Bearer {token}"
    body = json.dumps(_ours(request)).encode()
    reply = ask("POST", known["registration_endpoint"], body=body, headers=sent)
    try:
        found = json.loads(reply.body)
        client_id = str(found["client_id"])[:200]
    except (ValueError, KeyError, TypeError):
        says = gettext("The platform didn’t register us ({status}).")
        raise Unprocessable(says.format(status=reply.status)) from None
    deployment = str((found.get(TOOL) or {}).get("deployment_id", ""))
    family = str((known.get(PLATFORM) or {}).get("product_family_code", ""))
    name = family or str(urlsplit(known["issuer"]).netloc)
    issuer = known["issuer"][:300]
    row = Platform.objects.filter(school=school, issuer=issuer, client_id=client_id).first()
    made = row or new_platform(school)
    fields = {
        "name": name[:80],
        "issuer": issuer,
        "client_id": client_id,
        "login_url": known["authorization_endpoint"][:300],
        "token_url": known["token_endpoint"][:300],
        "keys_url": known["jwks_uri"][:300],
        "deployments": [deployment] if deployment else [],
    }
    store_platform(made, fields)
    says = gettext("{name} may launch").format(name=made.name)
    audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)
    return made


def _ours(request: HttpRequest) -> dict[str, Any]:
    """What we are, for the platform."""

    def at(path: str) -> str:
        return request.build_absolute_uri(f"/lti/{path}")

    return {
        "application_type": "web",
        "response_types": ["id_token"],
        "grant_types": ["implicit", "client_credentials"],
        "initiate_login_uri": at("login"),
        "redirect_uris": [at("launch")],
        "client_name": "Vendaval",
        "jwks_uri": at("keys"),
        "token_endpoint_auth_method": "private_key_jwt",
        "scope": f"{SCORE} {MEMBERS}",
        TOOL: {
            "domain": request.get_host(),
            "target_link_uri": at("launch"),
            "claims": ["iss", "sub", "name", "given_name", "family_name"],
            "messages": [
                {"type": "LtiResourceLinkRequest", "target_link_uri": at("launch")},
                {"type": "LtiDeepLinkingRequest", "target_link_uri": at("launch")},
            ],
        },
    }
