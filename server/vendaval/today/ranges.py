"""Files sent in parts (RFC 9110, section 14): a film can be moved in without loading all of it."""

from __future__ import annotations

import re
from http import HTTPStatus
from typing import Any

from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.translation import gettext

ASKED = re.compile(r"^bytes=(\d*)-(\d*)$")


def ranged(request: HttpRequest, file: Any, kind: str, name: str) -> HttpResponse | FileResponse:
    """A file, or the one range of it that is asked for; several ranges get the whole."""
    size = int(file.size)
    found = ASKED.match(request.headers.get("Range", ""))
    if found is None or not any(found.groups()):
        whole = FileResponse(file, content_type=kind, filename=name)
        whole["Accept-Ranges"] = "bytes"
        return whole
    first, last = found.groups()
    start = int(first) if first else max(0, size - int(last))
    end = min(size - 1, int(last)) if first and last else size - 1
    if start > end:
        refused = HttpResponse(status=HTTPStatus.REQUESTED_RANGE_NOT_SATISFIABLE)
        refused["Content-Range"] = f"bytes */{size}"
        return refused
    with file:
        file.seek(start)
        content = file.read(end - start + 1)
    part = HttpResponse(content, content_type=kind, status=HTTPStatus.PARTIAL_CONTENT)
    part["Content-Range"] = gettext("bytes {start}-{end}/{size}").format(
        start=start, end=end, size=size
    )
    part["Accept-Ranges"] = "bytes"
    return part
