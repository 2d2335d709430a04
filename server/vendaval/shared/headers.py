"""Headers that every answer bears."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

UNUSED = (
    "accelerometer camera display-capture geolocation gyroscope magnetometer "
    "microphone midi payment usb"
)
PERMISSIONS_POLICY = ", ".join(f"{name}=()" for name in UNUSED.split())


class HeadersMiddleware:
    """No cache keeps what the API says of somebody, and no page asks for devices."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response["Permissions-Policy"] = PERMISSIONS_POLICY
        if request.path.startswith("/api/"):
            response["Cache-Control"] = "no-store"
        return response
