"""What the page of imports gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.authoring.schemas import Why
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict

from .models import ImportKind, ImportState

Cell = Annotated[str, Field(max_length=2_000)]
TopicKey = Annotated[str, Field(max_length=60)]


class ImportFilter(Strict):
    """Which questions of a file. `wrong`: only those that something is wrong with."""

    wrong: bool = False
    page: Annotated[int, Field(ge=1, le=100)] = 1


class ImportLineOut(BaseModel):
    """A file of questions. `questions`: in it, `done` of them so far; `wrong`: with problems, left
    out or not; `skipped`: that stay out."""

    id: int
    kind: ImportKind
    name: str
    by: str
    at: datetime
    state: ImportState
    questions: int
    done: int
    wrong: int
    skipped: int
    publish: bool
    why: str


class CellProblemOut(BaseModel):
    column: str
    says: str


class ImportRowOut(BaseModel):
    """A question as it was written. `version`: to change it. `same`: one of the course that asks
    the same. `key`: of the question it became."""

    line: int
    version: str
    cells: dict[str, str]
    topic: PlaceOut | None
    problems: list[CellProblemOut]
    notes: list[str]
    same: PlaceOut | None
    skip: bool
    key: str


class PackReportOut(BaseModel):
    """What a pack would change. `new`, `changed`: titles of questions; `gone`: their keys. `files`:
    others that change. `conflicts`: files that were changed here as well."""

    new: list[str] = []
    changed: list[str] = []
    gone: list[str] = []
    files: list[str] = []
    structure: list[str] = []
    means: list[str] = []
    conflicts: list[str] = []
    problems: list[str] = []


class ImportOut(ImportLineOut):
    """A file with some of its questions. `report`: of a pack. `topic`: for those that name none.
    `columns`: those that any of these has."""

    unread: list[str]
    report: PackReportOut | None
    topic: PlaceOut | None
    columns: list[str]
    page: int
    pages: int
    rows: list[ImportRowOut]


class ImportsOut(BaseModel):
    """The newest first."""

    imports: list[ImportLineOut]


class ImportRowEdit(Strict):
    """What of a question can be edited: its cells, and whether it stays out."""

    cells: Annotated[dict[Annotated[str, Field(max_length=20)], Cell], Field(max_length=20)]
    skip: bool = False


class ImportRowIn(ImportRowEdit, Edited):
    """A question as it should be."""


class ImportTopicIn(Strict):
    """The topic of questions that name none; "" for none."""

    topic: TopicKey


class StoreImportIn(Strict):
    """Take questions into the course: as drafts, or so that learners get them at once. `over`: also
    where a pack's files replace what was changed here."""

    publish: bool = False
    over: bool = False
    why: Why


class UndoneOut(BaseModel):
    """`kept`: questions that stay, because somebody changed them or learners answered them."""

    kept: list[str]
    state: ImportState
