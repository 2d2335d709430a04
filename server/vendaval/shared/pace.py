"""Nobody answers faster than a person can: what is sent in a flood is refused before any work.

A bucket of tokens for each sender: a burst is let through, then so many a second. The buckets lie
in memory that all processes which part from one share, so that three processes do not let three
times as much through. What floods from many senders is for the proxy in front.
"""

from __future__ import annotations

import fcntl
import math
import mmap
import re
import struct
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from hashlib import blake2b

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils.translation import gettext, gettext_noop

from .errors import TooMany
from .requests import client_address

PLACES = 8192
# Whose bucket it is, what is left in it, and when that was.
PLACE = struct.Struct("=Qdd")
TOO_FAST = gettext_noop("You’re sending answers too fast. Wait a moment, then send it again.")
TOO_MUCH = gettext_noop("You’ve asked for this too often. Wait a moment, then try again.")


def _slow_down(says: str, after: int) -> JsonResponse:
    """The refusal of a request that came too soon. after: seconds to wait."""
    refusal = {"code": "too_fast", "detail": gettext(says), "fields": {}}
    return JsonResponse(refusal, status=429, headers={"Retry-After": str(after)})


class Pace:
    """burst: how many at once. per_second: how many after that.

    Made before the processes part. Two senders whose digests fall on one place put each other's
    bucket aside, which lets more through and nobody less; which do is a secret of the server.
    """

    def __init__(self, burst: int, per_second: float) -> None:
        self.burst, self.per_second = float(burst), per_second
        self._places = mmap.mmap(-1, PLACES * PLACE.size)
        # A lock of the file system is given back when a process that holds it is killed.
        self._lock_file = tempfile.TemporaryFile()  # noqa: SIM115 - open as long as the process
        self._threads = threading.Lock()

    def allows(self, who: str, now: float) -> bool:
        """Whether one more is let through at a moment, in seconds of the system's steady clock; if
        so it is counted."""
        key = settings.SECRET_KEY.encode()[:64]
        own = int.from_bytes(blake2b(who.encode(), key=key, digest_size=8).digest()) or 1
        at = (own % PLACES) * PLACE.size
        with self._threads:
            fcntl.lockf(self._lock_file, fcntl.LOCK_EX)
            try:
                whose, left, since = PLACE.unpack_from(self._places, at)
                if whose != own:
                    left, since = self.burst, now
                left = min(self.burst, left + (now - since) * self.per_second)
                allowed = left >= 1.0
                PLACE.pack_into(self._places, at, own, left - allowed, now)
            finally:
                fcntl.lockf(self._lock_file, fcntl.LOCK_UN)
        return bool(allowed)


# Codes are short enough to be typed; nobody may try many.
codes_by_person = Pace(burst=8, per_second=1 / 120)
codes_by_address = Pace(burst=60, per_second=1 / 10)


def refuse_many_codes(request: HttpRequest, person: int) -> None:
    """TooMany for somebody who tries many codes, or an address from which many do."""
    if not settings.CODE_PACE:
        return
    now, address = time.monotonic(), client_address(request) or ""
    # Both are counted, whichever refuses.
    own = codes_by_person.allows(gettext("codes of {person}").format(person=person), now)
    here = codes_by_address.allows(gettext("codes from {address}").format(address=address), now)
    if not (own and here):
        raise TooMany(
            gettext("You’ve tried too many codes. Wait two minutes."), code="wait", after=120
        )


@dataclass(frozen=True, slots=True)
class Costly:
    """Requests that cost much more than others, and the pace of one person at them. path: a
    regular expression; query: names of which one has to be there, if any are."""

    method: str
    path: str
    pace: Pace
    query: frozenset[str] = frozenset()

    def meets(self, request: HttpRequest) -> bool:
        """Whether a request is one of these."""
        if request.method != self.method or not re.search(self.path, request.path):
            return False
        return not self.query or any(request.GET.get(name) for name in self.query)


# The first that meets a request counts.
COSTLY = (
    Costly("GET", r"/file$|\.ics$", Pace(burst=6, per_second=1 / 10)),
    Costly("POST", r"/(own-data|data)$", Pace(burst=4, per_second=1 / 30)),
    Costly("POST", r"/(pages|list|list/check)$", Pace(burst=24, per_second=1 / 3)),
    Costly("PATCH", r"/pages/\d+$", Pace(burst=12, per_second=1.0)),
    # Pages ask at every key that is typed: nobody types faster for long.
    Costly("GET", "", Pace(burst=40, per_second=2.0), frozenset({"words", "text"})),
    Costly("POST", r"/(check|preview)$", Pace(burst=150, per_second=10.0)),
)


class CostlyPaceMiddleware:
    """Nobody slows the others by asking for much: refuses what one person asks for too fast, by
    what it costs. Behind the session, so that more sessions do not let more through."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.COSTLY_PACE and request.path.startswith("/api/"):
            costly = next((one for one in COSTLY if one.meets(request)), None)
            if costly is not None and not costly.pace.allows(_who(request), time.monotonic()):
                return _slow_down(TOO_MUCH, math.ceil(1 / costly.pace.per_second))
        return self.get_response(request)


def _who(request: HttpRequest) -> str:
    person = request.user.pk
    # Without an account the path says who it is: the phones of a class share one address.
    unknown = gettext("address {client_address} {path}").format(
        client_address=client_address(request), path=request.path
    )
    return unknown if person is None else gettext("person {person}").format(person=person)


class PaceMiddleware:
    """Refuses what comes in a flood, before session and database are asked: answers at the pace of
    somebody who answers, all else at one that no page reaches."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.answers = Pace(*settings.ANSWER_PACE) if settings.ANSWER_PACE else None
        self.flood = Pace(*settings.FLOOD_PACE) if settings.FLOOD_PACE else None

    def __call__(self, request: HttpRequest) -> HttpResponse:
        session = request.COOKIES.get(settings.SESSION_COOKIE_NAME, "")
        answers = request.path.endswith("/answer")
        flood = self.flood if session and request.path.startswith("/api/") else None
        pace = self.answers if answers else flood
        if pace is not None and not pace.allows(session, time.monotonic()):
            return _slow_down(TOO_FAST if answers else TOO_MUCH, 1)
        return self.get_response(request)
