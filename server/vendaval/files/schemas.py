"""What browsers get and send about files."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.work.schemas import Strict
from vendaval_core.items.files import MEGABYTE, FileKind

CHUNK = 200 * 1024


class PhoneLinkOut(BaseModel):
    """A link for a phone: its path here, good `until` then, and as a QR code in SVG."""

    path: str
    until: datetime
    qr: str


class PhoneOut(BaseModel):
    """What a phone shows: what its photographs are for and whose, how many are in and can be, and
    what is left to do at the computer."""

    test: str
    learner: str
    pages: int
    until: datetime
    most: int
    then: str


class FileIn(Strict):
    """A file that is about to be sent: what it is called, and its size in bytes. `part`: of the
    question, or "" for working on paper."""

    part: Annotated[str, Field(max_length=30)] = ""
    name: Annotated[str, Field(min_length=1, max_length=400)]
    size: Annotated[int, Field(ge=0, le=1000 * MEGABYTE)]


class FileOut(BaseModel):
    """A file. `path`: where its pages (`/pages/1`) and all of it (`/content`) are; `missing`:
    pieces that have not come, each of `chunk` bytes but the last; `arrived`: when all had."""

    id: int
    part: str
    name: str
    kind: FileKind
    size: int
    arrived: datetime | None
    missing: list[int]
    chunk: int = CHUNK
    drawn: int
    path: str


class FilesOut(BaseModel):
    """Files of a question. `closed`: why none can be added or removed now, by part, "" where they
    can; under "" for working on paper. `endings`, `most`: of photographs of it."""

    files: list[FileOut]
    closed: dict[str, str]
    endings: list[str]
    most: int
