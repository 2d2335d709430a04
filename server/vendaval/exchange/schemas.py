"""What the page of imports gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.authoring.schemas import Why
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict

from .models import ExportState, ImportKind, ImportState

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


Seen = Literal["", "new", "same", "changed", "version"]


class ImportRowOut(BaseModel):
    """A question as it was written. `version`: to change it. `same`: one of the course that asks
    the same. `key`: of the question it became. Of an item of QTI: `path` of its file; `seen`:
    whether the course has it, as it is or otherwise, or it is another version of one beside it."""

    line: int
    path: str
    seen: Seen
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


class ImportedTestOut(BaseModel):
    """A test of a package, as it would be taken in. `number`: its place, to choose it. `notes`:
    what of it is not kept. `refused`: why it can't be taken in. `made`: the test it became."""

    number: int
    path: str
    title: str
    sections: int
    questions: int
    notes: list[str]
    refused: str
    skip: bool
    made: int | None


class ImportedTestIn(Strict):
    """Whether a test stays out."""

    skip: bool


class ImportOut(ImportLineOut):
    """A file with some of its questions. `report`: of a pack. `topic`: for those that name none.
    `columns`: those that any of these has. `unplaced`: words of the file for topics that the course
    has under no such name."""

    unread: list[str]
    unplaced: list[str]
    report: PackReportOut | None
    topic: PlaceOut | None
    columns: list[str]
    page: int
    pages: int
    rows: list[ImportRowOut]
    tests: list[ImportedTestOut]


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
    """The topic of questions that name none; "" for none. `words`: of those alone whose file says
    this for it."""

    topic: TopicKey
    words: Annotated[str, Field(max_length=100)] = ""


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


class ExportIn(Strict):
    """A package of QTI: of one topic, of a test, or of the course; how many versions of each
    question."""

    topic: TopicKey = ""
    test: int | None = None
    versions: Annotated[int, Field(ge=1, le=20)] = 1


class LostOut(BaseModel):
    """A question, and what other programs don't know of it."""

    key: str
    title: str
    what: list[str]


class ExportLineOut(BaseModel):
    """A package: `done` of `many` questions are written. `test`: the title of the one it has."""

    id: int
    at: datetime
    topic: PlaceOut | None
    test: str
    versions: int
    state: ExportState
    done: int
    many: int
    lost: list[LostOut]
    why: str


class ExportsOut(BaseModel):
    """The newest first."""

    exports: list[ExportLineOut]
