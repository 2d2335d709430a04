"""All of one's own data, to take along."""

from __future__ import annotations

from typing import IO

from django.http import FileResponse, HttpRequest
from ninja import Router

from vendaval.people.permissions import current_user, signed_in

from .copies import latest_copy, open_copy
from .jobs import start_copy
from .models import Audience
from .schemas import DataCopyOut, copy_out

router = Router(auth=signed_in, tags=["privacy"])


def file_reply(file: IO[bytes], name: str) -> FileResponse:
    """A zip sent piece by piece."""
    return FileResponse(file, as_attachment=True, filename=name, content_type="application/zip")


@router.get("/own-data", response=DataCopyOut, operation_id="get_own_data")
def get_own_data(request: HttpRequest) -> DataCopyOut:
    """The copy of my data that is being made or is ready."""
    return copy_out(latest_copy(current_user(request), Audience.PERSON))


@router.post("/own-data", response=DataCopyOut, operation_id="ask_own_data")
def ask_own_data(request: HttpRequest) -> DataCopyOut:
    """Have a copy of everything that is kept about me made."""
    user = current_user(request)
    return copy_out(start_copy(user, user, Audience.PERSON))


@router.get("/own-data/file", operation_id="get_own_data_file")
def get_own_data_file(request: HttpRequest) -> FileResponse:
    """The copy itself, as a zip of plain files."""
    found = open_copy(current_user(request), Audience.PERSON)
    return file_reply(found, "vendaval-own-data.zip")
