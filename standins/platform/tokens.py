"""Tokens that the platform signs, and those of the tool that it checks."""

from __future__ import annotations

import json
import time
import uuid
from typing import Any

import jwt
import requests
from django.conf import settings
from jwcrypto.jwk import JWK
from pylti1p3.registration import Registration

from .models import Hint, Item, Key
from .people import COURSE, COURSE_TITLE, PEOPLE

CLAIM = "https://purl.imsglobal.org/spec/lti/claim/"
AGS = "https://purl.imsglobal.org/spec/lti-ags/"
LASTS = 300


def own_key() -> JWK:
    """The platform's key; made when it is first needed."""
    kept = Key.objects.first()
    if kept is None:
        made = JWK.generate(kty="RSA", size=2048)
        pem = made.export_to_pem(private_key=True, password=None).decode()
        kept = Key.objects.create(private=pem)
    return JWK.from_pem(kept.private.encode())


def public_key() -> dict[str, Any]:
    """As others may believe it."""
    return dict(Registration.get_jwk(own_key().export_to_pem().decode()))


def signed(says: dict[str, Any]) -> str:
    """A token that says so."""
    pem = own_key().export_to_pem(private_key=True, password=None).decode()
    return jwt.encode(says, pem, algorithm="RS256", headers={"kid": public_key()["kid"]})


def of_the_tool(token: str, audience: str) -> dict[str, Any]:
    """What a token of the tool says; jwt.InvalidTokenError for one that is not its."""
    known = requests.get(f"{settings.VENDAVAL}/lti/keys", timeout=10).json()["keys"]
    kid = jwt.get_unverified_header(token).get("kid")
    key = next((one for one in known if one["kid"] == kid), None)
    if key is None:
        raise jwt.InvalidTokenError("no such key")
    pem = JWK.from_json(json.dumps(key)).export_to_pem()
    said: dict[str, Any] = jwt.decode(token, pem, algorithms=["RS256"], audience=audience)
    return said


def launch(hint: Hint, nonce: str) -> str:
    """The token of a launch."""
    person, now = PEOPLE[hint.who], int(time.time())
    address = settings.ADDRESS
    says: dict[str, Any] = {
        "iss": address,
        "aud": settings.CLIENT_ID,
        "sub": person.key,
        "name": person.name,
        "given_name": person.given,
        "iat": now,
        "exp": now + LASTS,
        "nonce": nonce,
        f"{CLAIM}version": "1.3.0",
        f"{CLAIM}deployment_id": settings.DEPLOYMENT,
        f"{CLAIM}target_link_uri": f"{settings.VENDAVAL}/lti/launch",
        f"{CLAIM}roles": person.roles,
        f"{CLAIM}context": {"id": COURSE, "title": COURSE_TITLE},
        "https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice": {
            "context_memberships_url": f"{address}/platform/members",
            "service_versions": ["2.0"],
        },
    }
    item = hint.item
    return signed(says | (_picking() if item is None else _resource(item)))


def _picking() -> dict[str, Any]:
    return {
        f"{CLAIM}message_type": "LtiDeepLinkingRequest",
        "https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings": {
            "deep_link_return_url": f"{settings.ADDRESS}/platform/back",
            "accept_types": ["ltiResourceLink"],
            "accept_presentation_document_targets": ["iframe", "window"],
            "data": uuid.uuid4().hex,
        },
    }


def _resource(item: Item) -> dict[str, Any]:
    return {
        f"{CLAIM}message_type": "LtiResourceLinkRequest",
        f"{CLAIM}resource_link": {"id": f"item-{item.pk}", "title": item.title},
        f"{CLAIM}custom": item.custom,
        f"{AGS}claim/endpoint": {
            "scope": [f"{AGS}scope/score"],
            "lineitem": f"{settings.ADDRESS}/platform/items/{item.pk}",
        },
    }
