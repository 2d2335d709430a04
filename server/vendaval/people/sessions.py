"""Sessions that know whose they are, so that a person can see theirs and end them."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import SESSION_KEY, login
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.contrib.sessions.middleware import SessionMiddleware
from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from django.utils.cache import patch_vary_headers
from django.utils.dateparse import parse_datetime

from vendaval.shared import clock
from vendaval.shared.requests import client_address

from .models import AccountSession, User

BEGAN = "_began"


class SessionStore(DatabaseStore):
    """Django's own store in the database; each row names the account that is signed in."""

    @classmethod
    def get_model_class(cls) -> Any:
        return AccountSession

    def create_model_instance(self, data: dict[str, Any]) -> Any:
        row = super().create_model_instance(data)
        assert isinstance(row, AccountSession)
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        began = data.get(BEGAN, {})
        row.since = parse_datetime(began["at"]) if began else None
        row.address, row.agent = began.get("address"), began.get("agent", "")
        return row


def begin_session(request: HttpRequest, person: User) -> None:
    """Sign somebody in: a session of their own from now on."""
    login(request, person)
    request.session[BEGAN] = {
        "at": clock.now().isoformat(),
        "address": client_address(request),
        "agent": request.headers.get("User-Agent", "")[:200],
    }


def end_sessions(person: User, but: str | None = None) -> int:
    """Sign somebody out everywhere, as their practice learner too, but for the session of one key.
    Returns how many ended."""
    own = AccountSession.objects.filter(Q(person=person) | Q(person__practice_for=person))
    return own.exclude(session_key=but or "").delete()[0]


class AccountSessionMiddleware(SessionMiddleware):
    """Django's own, but that a cookie which opens nothing is left alone: while somebody goes on as
    another account, requests with the cookie before are still under way, and what they answer must
    not take the new one away. Signing out takes it away as ever."""

    def process_response(self, request: HttpRequest, response: HttpResponse) -> HttpResponse:
        session = request.session
        if session.is_empty() and not session.modified:
            patch_vary_headers(response, ("Cookie",))
            return response
        return super().process_response(request, response)
