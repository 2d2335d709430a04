"""Headers that every answer bears."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from .requests import OPENING

UNUSED = (
    "accelerometer display-capture geolocation gyroscope magnetometer microphone midi payment usb"
)
CAMERA = "camera=(self)"
PERMISSIONS_POLICY = ", ".join([*(f"{name}=()" for name in UNUSED.split()), CAMERA])


class HeadersMiddleware:
    """No cache keeps what the API says of somebody, and none asks for devices but the
    camera, to photograph pages of paper."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response["Permissions-Policy"] = PERMISSIONS_POLICY
        if OPENING.search(request.path):
            response["Referrer-Policy"] = "no-referrer"
        if request.path.startswith("/api/"):
            response["Cache-Control"] = "no-store"
        return response
