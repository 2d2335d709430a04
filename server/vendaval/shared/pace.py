"""Nobody answers faster than a person can: what is sent in a flood is refused before any work.

A bucket of tokens for each session and process, in memory: a burst is let through, then so many
a second. What floods from many sessions is for the proxy in front.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

REMEMBERED = 10_000
TOO_FAST = {
    "code": "too_fast",
    "detail": "That is faster than anybody answers. Wait a moment, then send it again.",
    "fields": {},
}


@dataclass(slots=True)
class Pace:
    """burst: how many at once. per_second: how many after that."""

    burst: int
    per_second: float
    _left: OrderedDict[str, tuple[float, float]] = field(default_factory=OrderedDict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def allows(self, who: str, now: float) -> bool:
        """Whether one more is let through at a moment (seconds); if so it is counted."""
        with self._lock:
            left, at = self._left.pop(who, (float(self.burst), now))
            left = min(float(self.burst), left + (now - at) * self.per_second)
            allowed = left >= 1.0
            self._left[who] = (left - allowed, now)
            while len(self._left) > REMEMBERED:
                self._left.popitem(last=False)
            return allowed


class PaceMiddleware:
    """Refuses answers that come in a flood, before session and database are asked."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.pace = Pace(*settings.ANSWER_PACE) if settings.ANSWER_PACE else None

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if self.pace is not None and request.path.endswith("/answer"):
            who = request.COOKIES.get(settings.SESSION_COOKIE_NAME, "")
            if not self.pace.allows(who, time.monotonic()):
                return JsonResponse(TOO_FAST, status=429, headers={"Retry-After": "1"})
        return self.get_response(request)
