"""What browsers get and send about what is handed in with set work."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.files.schemas import FileOut
from vendaval.work.schemas import Strict
from vendaval_core.mastery.handing_in import MOST_LINKS, Wanted


class HandInMarkOut(BaseModel):
    """What a tutor gave. points: None where it is not marked with points."""

    points: str | None
    of: int | None
    comment: str
    by: str
    at: datetime


class HandInOut(BaseModel):
    """What a learner hands in: `closed` says why it can't be changed now, `lacking` what must still
    be added, "" for nothing."""

    files_wanted: Wanted
    links_wanted: Wanted
    says_html: str
    endings: list[str]
    most: int
    most_links: int
    files: list[FileOut]
    links: list[str]
    handed_in: datetime | None
    closed: str
    lacking: str
    mark: HandInMarkOut | None


class LinksIn(Strict):
    """All links, in order."""

    links: Annotated[list[Annotated[str, Field(max_length=2000)]], Field(max_length=MOST_LINKS)]


class HandedInOut(BaseModel):
    """What one learner handed in: files and links once it is. `version`: changes when it is handed
    in again or marked."""

    learner: int
    name: str
    handed_in: datetime | None
    late: bool
    files: list[FileOut]
    links: list[str]
    mark: HandInMarkOut | None
    version: str


class HandInsOut(BaseModel):
    """What a group handed in for a piece of work."""

    title: str
    group: str
    says_html: str
    points: int | None
    due: datetime | None
    learners: list[HandedInOut]


class HandInMarkIn(Strict):
    """Points, where there are some, and a comment. `seen`: the version that was looked at."""

    seen: Annotated[str, Field(max_length=80)]
    points: Annotated[Decimal, Field(ge=0, le=100, decimal_places=2)] | None = None
    comment: Annotated[str, Field(max_length=4000)] = ""


class WaitingHandInOut(BaseModel):
    """A piece of work of which something waits for marks: how much, and since when."""

    group: int
    group_title: str
    task: int
    title: str
    waiting: int
    since: datetime


class WaitingHandInsOut(BaseModel):
    tasks: list[WaitingHandInOut]
