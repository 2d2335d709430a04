"""Who may ask. Every router names one of these."""

from __future__ import annotations

from django.http import HttpRequest
from ninja.errors import AuthenticationError
from ninja.security import APIKeyCookie, SessionAuth

from vendaval.people.models import Role, User
from vendaval.shared.errors import NotAllowed


class SignedIn(SessionAuth):
    """Any account with a session. The session cookie brings CSRF checks with it."""

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        user = request.user
        if not isinstance(user, User):
            raise AuthenticationError()
        return user


class Learner(SignedIn):
    """Accounts that learn."""

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        user = super().authenticate(request, key)
        if user is not None and user.role != Role.LEARNER:
            raise NotAllowed("This is for learners.")
        return user


signed_in = SignedIn()
learner_only = Learner()


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
