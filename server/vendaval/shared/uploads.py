"""A file that comes with a request."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from django.utils.translation import gettext

from .errors import Unprocessable

# What the form around a file may take.
AROUND = 64 * 1024
UPLOAD: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {
            "multipart/form-data": {
                "schema": {
                    "type": "object",
                    "properties": {"file": {"type": "string", "format": "binary"}},
                    "required": ["file"],
                }
            }
        },
    }
}


def uploaded_file(request: HttpRequest, most_bytes: int) -> bytes:
    """The one file of a request; what is too large is refused before it is read."""
    try:
        length = int(request.META.get("CONTENT_LENGTH") or 0)
    except ValueError:
        length = 0
    if length > most_bytes + AROUND:
        says = gettext("A file can be at most {most_bytes} MB.").format(
            most_bytes=most_bytes // 10**6
        )
        raise Unprocessable(says, fields={"file": gettext("too large")})
    found = request.FILES.get("file")
    if found is None or isinstance(found, list):
        raise Unprocessable(
            gettext("No file arrived. Choose one and send it again."), fields={"file": "missing"}
        )
    return bytes(found.read())
