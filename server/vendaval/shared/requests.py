"""Request ids and one log line per request."""

from __future__ import annotations

import logging
import time
import uuid
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

logger = logging.getLogger("vendaval.requests")


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
                    "path": request.path,
                    "status": response.status_code,
                    "ms": round(1000 * (time.perf_counter() - started), 1),
                },
            )
        return response
