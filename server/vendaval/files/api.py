"""Endpoints of files: the learner's own, and those a tutor or guardian may see."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.utils.translation import gettext
from ninja import Path, Query, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import related_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import Unprocessable
from vendaval.work.schemas import DoneOut

from . import answers, phone
from .models import StoredFile
from .schemas import CHUNK, FileIn, FileOut, FilesOut, PhoneLinkOut
from .storing import page, pieces

router = Router(auth=signed_in, tags=["files"])
for_others = Router(auth=signed_in, tags=["files"])
FILES = "/questions/{int:question_id}/files"
FILE = "/files/{int:file_id}"
Piece = Annotated[int, Path(ge=0, le=2000)]
Place = Annotated[int, Path(ge=1, le=100)]
Small = Annotated[bool, Query()]
PIECE = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


def picture_of(data: bytes) -> HttpResponse:
    """A picture as it is sent."""
    return HttpResponse(data, content_type="image/jpeg")


def to_save(row: StoredFile) -> StreamingHttpResponse:
    """A file to be saved. Whatever is in it, no browser opens it as a page of ours."""
    reply = StreamingHttpResponse(pieces(row), content_type="application/octet-stream")
    reply["Content-Length"] = str(row.size)
    reply["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(row.name)}"
    reply["X-Content-Type-Options"] = "nosniff"
    reply["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return reply


def piece_of(request: HttpRequest) -> bytes:
    """The body of a request that carries a piece of a file, refused unread when it is too long."""
    try:
        length = int(request.META.get("CONTENT_LENGTH") or 0)
    except ValueError:
        length = 0
    if not 0 < length <= CHUNK:
        raise Unprocessable(gettext("This piece of the file is too long."), fields={"file": "size"})
    return request.body


@router.get(FILES, response=FilesOut, operation_id="list_files")
def list_files(request: HttpRequest, course: CourseKey, question_id: int) -> FilesOut:
    """Files in the answer to a question, and photographs of working beside it."""
    return answers.own_files(current_user(request), course, question_id, "list_files")


@router.post(FILES, response=FileOut, operation_id="start_file")
def start_file(request: HttpRequest, course: CourseKey, question_id: int, body: FileIn) -> FileOut:
    """Announce a file, which then comes in pieces."""
    return answers.start_file(current_user(request), course, question_id, body, "start_file")


@router.post(f"{FILES}/link", response=PhoneLinkOut, operation_id="make_working_link")
def make_working_link(request: HttpRequest, course: CourseKey, question_id: int) -> PhoneLinkOut:
    """A link for a phone that photographs working, good for a quarter of an hour."""
    address = f"{request.scheme}://{request.get_host()}"
    return phone.make_link(current_user(request), course, question_id, address)


@router.put(
    f"{FILE}/chunks/{{int:piece}}",
    response=FileOut,
    operation_id="send_chunk",
    openapi_extra=PIECE,
)
def send_chunk(request: HttpRequest, course: CourseKey, file_id: int, piece: Piece) -> FileOut:
    """A piece of a file. With the last missing one it has arrived."""
    data, user = piece_of(request), current_user(request)
    return answers.send_chunk(user, course, file_id, piece, data, "send_chunk")


@router.delete(FILE, response=DoneOut, operation_id="remove_file")
def remove_file(request: HttpRequest, course: CourseKey, file_id: int) -> DoneOut:
    answers.open_file(current_user(request), course, file_id, "remove_file", change=True).delete()
    return DoneOut(done=True)


@router.get(f"{FILE}/content", operation_id="get_file")
def get_file(request: HttpRequest, course: CourseKey, file_id: int) -> StreamingHttpResponse:
    """A file of one's own, to be saved."""
    return to_save(answers.open_file(current_user(request), course, file_id, "get_file"))


@router.get(f"{FILE}/pages/{{int:place}}", operation_id="get_file_page")
def get_file_page(
    request: HttpRequest, course: CourseKey, file_id: int, place: Place, small: Small = False
) -> HttpResponse:
    """A page of a file, JPEG."""
    row = answers.open_file(current_user(request), course, file_id, "get_file_page")
    return picture_of(page(row, place, small=small))


@for_others.get(
    "/learners/{int:enrolment_id}" + FILES, response=FilesOut, operation_id="list_learner_files"
)
def list_learner_files(request: HttpRequest, enrolment_id: int, question_id: int) -> FilesOut:
    """Files in a learner's answer."""
    found = related_enrolment(current_user(request), enrolment_id, "list_learner_files")
    return answers.others_files(found, question_id)


@for_others.get("/learners/{int:enrolment_id}" + f"{FILE}/content", operation_id="get_learner_file")
def get_learner_file(
    request: HttpRequest, enrolment_id: int, file_id: int
) -> StreamingHttpResponse:
    """A file of a learner, to be saved."""
    found = related_enrolment(current_user(request), enrolment_id, "get_learner_file")
    return to_save(answers.others_file(found, file_id))


@for_others.get(
    "/learners/{int:enrolment_id}" + f"{FILE}/pages/{{int:place}}",
    operation_id="get_learner_file_page",
)
def get_learner_file_page(
    request: HttpRequest, enrolment_id: int, file_id: int, place: Place, small: Small = False
) -> HttpResponse:
    """A page of a learner's file, JPEG."""
    found = related_enrolment(current_user(request), enrolment_id, "get_learner_file_page")
    return picture_of(page(answers.others_file(found, file_id), place, small=small))
