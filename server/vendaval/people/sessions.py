"""Sessions that know whose they are, so that a person can see theirs and end them."""

from __future__ import annotations

from django.contrib.auth import login
from django.contrib.sessions.middleware import SessionMiddleware
from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from django.utils.cache import patch_vary_headers

from vendaval.shared import clock
from vendaval.shared.requests import client_address

from .addresses import note_address
from .models import BEGAN, AccountSession, SessionStore, User

__all__ = ["SessionStore", "begin_session", "end_sessions"]


def begin_session(request: HttpRequest, person: User) -> None:
    """Sign somebody in: a session of their own from now on."""
    login(request, person)
    note_address(request, person)
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
