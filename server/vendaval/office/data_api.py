"""Endpoints of the office about copies of a person's data."""

from __future__ import annotations

from django.http import FileResponse, HttpRequest
from ninja import Router

from vendaval.people.permissions import signed_in
from vendaval.privacy.api import file_reply
from vendaval.privacy.copies import latest_copy, open_copy
from vendaval.privacy.jobs import start_copy
from vendaval.privacy.models import Audience
from vendaval.privacy.schemas import DataCopyOut, copy_out

from .desk import desk_of

router = Router(auth=signed_in, tags=["office"])
PERSON = "/office/people/{int:person_id}"


@router.get(f"{PERSON}/data", response=DataCopyOut, operation_id="get_person_data")
def get_person_data(request: HttpRequest, person_id: int) -> DataCopyOut:
    """The copy of what the office manages about somebody that is being made or is ready."""
    on = desk_of(request, person_id, "get_person_data")
    return copy_out(latest_copy(on.person, Audience.OFFICE, on.school))


@router.post(f"{PERSON}/data", response=DataCopyOut, operation_id="ask_person_data")
def ask_person_data(request: HttpRequest, person_id: int) -> DataCopyOut:
    """Have such a copy made: the account and what hangs on it, without answers."""
    on = desk_of(request, person_id, "ask_person_data")
    return copy_out(start_copy(on.person, on.by, Audience.OFFICE, on.school))


@router.get(f"{PERSON}/data/file", operation_id="get_person_data_file")
def get_person_data_file(request: HttpRequest, person_id: int) -> FileResponse:
    """The copy itself, as a zip."""
    on = desk_of(request, person_id, "get_person_data_file")
    found = open_copy(on.person, Audience.OFFICE, on.school)
    return file_reply(found, f"vendaval-data-{on.person.pk}.zip")
