"""What authors' browsers get and send."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut, QuestionOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict

MOST_TEXT = 60_000
FileText = Annotated[str, Field(max_length=MOST_TEXT)]
Why = Annotated[str, Field(min_length=3, max_length=300)]


class ProblemOut(BaseModel):
    """Something wrong in a file. `seed`: of the version it shows in, null for the file itself."""

    line: int
    field: str
    says: str


class SlipShownOut(BaseModel):
    words: str
    response: str


class PartShownOut(BaseModel):
    id: str
    right: str
    slips: list[SlipShownOut]


class VersionFaultOut(BaseModel):
    field: str
    says: str


class VersionRowOut(BaseModel):
    """A version in one line. `doubts`: what will puzzle its learners."""

    seed: int
    values: list[str]
    parts: list[PartShownOut]
    faults: list[VersionFaultOut]
    doubts: list[str]


class VersionsOut(BaseModel):
    """`names`: of what is drawn. `faulty`, `doubted`: seeds among the first `looked_at`.
    `constraints`: that would have the doubted ones drawn anew."""

    names: list[str]
    versions: int
    rows: list[VersionRowOut]
    looked_at: int
    faulty: list[int]
    doubted: list[int]
    differing: int
    constraints: list[str]


class FamilyRevisionOut(BaseModel):
    """A revision. `by`: "" for one from a pack."""

    number: int
    by: str
    at: datetime | None
    why: str
    fresh: bool


class SectionChoiceOut(BaseModel):
    """A study section as `value` names it from this topic."""

    value: str
    title: str


class FilledOut(BaseModel):
    """A place of a text that is filled: the expression, and what it gives in the first version."""

    expression: str
    shown: str


class WorkbenchOut(BaseModel):
    """A family as its author opens it. `data`: its file's fields, null where it can't be read as
    YAML. `values`: of the first version's variables, as they are read. `slots`: what the places of
    its texts give there. `answers`: what expressions give there. `group`: whose own question it is,
    empty for one of the course."""

    key: str
    topic: PlaceOut
    version: str
    text: str
    data: dict[str, Any] | None
    problems: list[ProblemOut]
    versions: VersionsOut | None
    slots: list[FilledOut]
    published: FamilyRevisionOut | None
    based_on: int | None
    saved_at: datetime | None
    saved_by: str
    is_draft: bool
    live: bool
    stopped: bool
    rehearsal: bool
    group: str
    sections: list[SectionChoiceOut]


class DraftFile(BaseModel):
    """What of a draft can be edited: its file."""

    text: FileText


class DraftState(DraftFile):
    """A draft's file, and its fields where they can be read."""

    data: dict[str, Any] | None


class SaveDraftIn(Edited):
    """A draft as it is typed: as a file, or as the fields of a form."""

    text: FileText | None = None
    data: dict[str, Any] | None = None
    seed: Annotated[int, Field(ge=1, le=50)] = 1


class DiscardedOut(BaseModel):
    """`published`: whether anything is left of the question."""

    published: bool


class NewFamilyIn(Strict):
    """A new question. `start`: the kind of its first part. `group`: whose own it will be, null for
    one of the course."""

    topic: Annotated[str, Field(max_length=60)]
    title: Annotated[str, Field(min_length=3, max_length=60)]
    start: Annotated[str, Field(max_length=40)]
    group: int | None = None


class RenameIn(Strict):
    """`version`: of the draft whose variable is to be called otherwise."""

    version: Annotated[str, Field(max_length=40)]
    old: Annotated[str, Field(max_length=30)]
    new: Annotated[str, Field(max_length=30)]


class StartOut(BaseModel):
    """A kind to begin with. `part`: the fields of one of it."""

    start: str
    part: dict[str, Any]


class StartsOut(BaseModel):
    starts: list[StartOut]


class TryVersionIn(Strict):
    """A version to try. `responses`: none yet where it is null."""

    seed: Annotated[int, Field(ge=1, le=50)]
    responses: dict[str, Annotated[str, Field(max_length=10_000)]] | None = None


class VersionTriedOut(BaseModel):
    """A version in the real player; marked once there are responses. `question`: null while the
    draft can't be read or drawn, which the page says already. `right`: the response that is right,
    by part."""

    question: QuestionOut | None
    right: dict[str, str]


class ChangeOut(BaseModel):
    """`kind`: wording and numbers keep the answers given so far, others do not."""

    says: str
    kind: Literal["wording", "numbers", "judgement", "key", "asked"]


class PublishingOut(BaseModel):
    """What publishing a draft would do. `problems`: it can't be published while there are any."""

    version: str
    problems: list[ProblemOut]
    changes: list[ChangeOut]
    keeps: bool
    means: list[str]


class PublishIn(Strict):
    """`keeps`: whether answers given so far still count towards its difficulty."""

    version: Annotated[str, Field(max_length=40)]
    why: Why
    keeps: bool


class DraftStepOut(BaseModel):
    id: int
    by: str
    at: datetime


class HistoryOut(BaseModel):
    """Revisions, the newest first; and how the draft was at times, if there is one."""

    title: str
    is_draft: bool
    revisions: list[FamilyRevisionOut]
    steps: list[DraftStepOut]


class DiffLineOut(BaseModel):
    """A line of two files: in both, or only in the older or the newer one."""

    of: Literal["both", "older", "newer"]
    text: str


class SideOut(BaseModel):
    """One of two that are compared. `revision`: null for the draft. `question`: null where its
    file can't be read."""

    revision: FamilyRevisionOut | None
    question: QuestionOut | None


class ComparedOut(BaseModel):
    """Two revisions as learners see the same version of each, and as files."""

    older: SideOut
    newer: SideOut
    lines: list[DiffLineOut]
