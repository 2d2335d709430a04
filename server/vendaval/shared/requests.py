"""Request ids and one log line per request."""

from __future__ import annotations

import ipaddress
import logging
import re
import time
import uuid
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

logger = logging.getLogger("vendaval.requests")
# What follows these in an address opens something to whoever has it.
OPENING = re.compile(r"/(open|phone|calendar)/[^/]+")
# What follows these stays out of the log.
TOKENS = re.compile(r"/(open|phone|calendar|arrive|pick)/[^/]+")


def without_tokens(path: str) -> str:
    """Return an address as it may be logged."""
    return TOKENS.sub(r"/\1/…", path)


def client_address(request: HttpRequest) -> str | None:
    """Where a request comes from, as told by the proxies that stand in front of this server, and
    by nobody further out: of version 6 the network, which is what one subscriber has. None when
    that is no address."""
    told = request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if settings.PROXIES else []
    hops = [*(hop.strip() for hop in told if hop.strip()), request.META.get("REMOTE_ADDR", "")]
    found = hops[max(0, len(hops) - 1 - settings.PROXIES)]
    try:
        address = ipaddress.ip_address(found)
    except ValueError:
        return None
    if address.version == 4:
        return str(address)
    return str(ipaddress.ip_network(f"{address}/64", strict=False).network_address)


class RequestLogMiddleware:
    """Gives every request an id, sends it back, and logs method, path, status and time."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        request_id = uuid.uuid4().hex[:12]
        request.request_id = request_id  # type: ignore[attr-defined]
        started = time.perf_counter()
        response = self.get_response(request)
        response["X-Request-Id"] = request_id
        if request.path.startswith("/api/") and request.path != "/api/health":
            logger.info(
                "request",
                extra={
                    "request_id": request_id,
                    "method": request.method,
                    "path": without_tokens(request.path),
                    "status": response.status_code,
                    "ms": round(1000 * (time.perf_counter() - started), 1),
                },
            )
        return response
