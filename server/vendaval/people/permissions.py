"""Who is asking. What they may do with whose work is said in `policies.py`."""

from __future__ import annotations

from django.http import HttpRequest
from ninja.errors import AuthenticationError
from ninja.security import APIKeyCookie, SessionAuth

from .models import User


class SignedIn(SessionAuth):
    """Any account with a session. The session cookie brings CSRF checks with it."""

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        user = request.user
        if not isinstance(user, User):
            raise AuthenticationError()
        return user


signed_in = SignedIn()


def current_user(request: HttpRequest) -> User:
    """The account that the router's guard let through."""
    user = request.user
    if not isinstance(user, User):
        raise AuthenticationError()
    return user


class CsrfOnly(APIKeyCookie):
    """Anyone, but with the CSRF token: for signing in."""

    def __init__(self) -> None:
        super().__init__(csrf=True)

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


csrf_only = CsrfOnly()
