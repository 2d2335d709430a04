"""What the library that speaks LTI needs of us: registrations, what is kept, and how requests go
out. Where it is more lenient than the standard, this is not."""

from __future__ import annotations

import hashlib
import io
from datetime import timedelta
from typing import Any, cast

import requests
from django.utils.translation import gettext
from pylti1p3.contrib.django.message_launch import DjangoMessageLaunch
from pylti1p3.contrib.django.session import DjangoSessionService
from pylti1p3.deployment import Deployment
from pylti1p3.exception import LtiException
from pylti1p3.registration import Registration
from pylti1p3.tool_config.abstract import ToolConfAbstract
from requests.adapters import BaseAdapter

from vendaval.shared import clock
from vendaval.shared.outgoing import Unreachable, ask

from .keys import current_key
from .models import Platform
from .pending import keep, look, take

OLDEST = 600
# A platform’s keys are kept for so long, and asked for again no sooner than that.
KEYS_LAST, KEYS_REST = timedelta(hours=1), 60
ALGORITHM = "RS256"


class OurWayOut(BaseAdapter):
    """Requests of the library as all of ours go out: never inside, never long, never large."""

    def send(self, request: requests.PreparedRequest, *args: Any, **more: Any) -> requests.Response:
        body = request.body.encode() if isinstance(request.body, str) else request.body
        try:
            got = ask(
                str(request.method),
                str(request.url),
                body=cast("bytes | None", body),
                headers={name: str(value) for name, value in request.headers.items()},
            )
        except Unreachable as error:
            raise requests.exceptions.ConnectionError(str(error)) from error
        reply = requests.Response()
        reply.status_code, reply.url, reply.request = got.status, str(request.url), request
        reply.headers.update(got.headers)
        reply.raw = io.BytesIO(got.body)
        return reply

    def close(self) -> None:
        """Nothing is kept open."""


def our_requests() -> requests.Session:
    """Requests to platforms, which lead nowhere else."""
    made = requests.Session()
    made.max_redirects = 0
    for scheme in ("http://", "https://"):
        made.mount(scheme, OurWayOut())
    return made


def registration_of(platform: Platform) -> Registration:
    """A platform as the library knows it, with our key."""
    key = current_key()
    return (
        Registration()
        .set_issuer(platform.issuer)
        .set_client_id(platform.client_id)
        .set_key_set_url(platform.keys_url)
        .set_auth_token_url(platform.token_url)
        .set_auth_login_url(platform.login_url)
        .set_tool_private_key(key.private)
        .set_tool_public_key(key.public)
    )


def platform_of(issuer: str, client_id: str) -> Platform | None:
    """A platform that is switched on. Without a client id: the only one of its issuer."""
    found = Platform.objects.filter(issuer=issuer, on=True)
    if client_id:
        return found.filter(client_id=client_id).first()
    several = list(found[:2])
    return several[0] if len(several) == 1 else None


class Platforms(ToolConfAbstract):  # type: ignore[type-arg]
    """The platforms that the office let in."""

    def check_iss_has_one_client(self, iss: str) -> bool:
        return False

    def find_registration_by_issuer(self, iss: str, *args: Any, **more: Any) -> Registration:
        raise NotImplementedError

    def find_registration_by_params(
        self, iss: str, client_id: str, *args: Any, **more: Any
    ) -> Registration:
        found = platform_of(iss, client_id)
        if found is None:
            raise LtiException(gettext("no such platform"))
        return registration_of(found)

    def find_deployment(self, iss: str, deployment_id: str) -> Deployment | None:
        raise NotImplementedError

    def find_deployment_by_params(
        self, iss: str, deployment_id: str, client_id: str, *args: Any, **more: Any
    ) -> Deployment | None:
        found = platform_of(iss, client_id)
        if found is None or (found.deployments and deployment_id not in found.deployments):
            return None
        return Deployment().set_deployment_id(deployment_id)


class OnceSession(DjangoSessionService):
    """A nonce is used once, and a state needs its cookie each time."""

    def save_nonce(self, nonce: str) -> None:
        keep("nonce", True, nonce)

    def check_nonce(self, nonce: str) -> bool:
        return take("nonce", nonce) is True

    def set_state_valid(self, state: str, id_token_hash: str) -> None:
        """Nothing: no second launch with the same state."""

    def check_state_is_valid(self, state: str, id_token_hash: str) -> bool:
        return False

    def save_launch_data(self, key: str, jwt_body: Any) -> None:
        """Nothing: what a launch says is kept by `arriving`, for one request."""


class Launch(DjangoMessageLaunch):
    """A launch that is checked as a whole; LtiException for one that isn't valid."""

    def validate_jwt_format(self) -> Launch:
        super().validate_jwt_format()
        if self._jwt.get("header", {}).get("alg") != ALGORITHM:
            raise LtiException(gettext("the token is not signed with RS256"))
        body = cast("dict[str, Any]", self._get_jwt_body())
        audience = body.get("aud")
        several = audience if isinstance(audience, list) else [audience]
        if len(several) > 1 and body.get("azp") not in several:
            raise LtiException(gettext("the token is for several, and does not say for whom"))
        now = clock.now().timestamp()
        for name in ("exp", "iat"):
            if not isinstance(body.get(name), int | float):
                raise LtiException(gettext("the token has no {name}").format(name=name))
        if body["exp"] < now:
            raise LtiException(gettext("the token has ended"))
        if not now - OLDEST < body["iat"] < now + OLDEST:
            raise LtiException(gettext("the token is old, or the platform’s clock is wrong"))
        if not body.get("sub"):
            raise LtiException(gettext("the token says nobody’s name"))
        return self

    def fetch_public_key(self, key_set_url: str) -> Any:
        """The platform's keys: not asked for at each launch, so that nobody keeps us waiting for
        them; asked for anew for a key that is not among them."""
        name = hashlib.sha256(key_set_url.encode()).hexdigest()
        now, kept = clock.now().timestamp(), look("keys", name)
        if kept is not None:
            wanted = self._jwt.get("header", {}).get("kid")
            known = any(one.get("kid") == wanted for one in kept["keys"])
            if known or kept["at"] > now - KEYS_REST:
                return kept
        found = super().fetch_public_key(key_set_url)
        keys = found.get("keys") if isinstance(found, dict) else None
        if not isinstance(keys, list) or not all(isinstance(one, dict) for one in keys):
            raise LtiException(gettext("the platform’s keys can’t be read"))
        keep("keys", {"keys": keys, "at": now}, name, KEYS_LAST)
        return {"keys": keys}

    def get_client_id(self) -> str:
        body = self._get_jwt_body()
        audience = body.get("aud")
        if isinstance(audience, list):
            return str(body.get("azp") or (audience[0] if audience else ""))
        return str(audience)
