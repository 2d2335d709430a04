"""Files as an answer, or work on paper: kept, and marked by a person if at all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from ..fields import Strict, Values
from ..files import A_FEW_PAGES, MEGABYTES, MOST_FILES, FileKind, FileRules
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill
from .written import PersonKey, PersonPart


class FilesModel(Strict):
    """Which files are taken: kinds, how many, and megabytes of each at most."""

    kinds: Annotated[list[FileKind], Field(min_length=1, max_length=len(FileKind))] = Field(
        default_factory=lambda: [FileKind.PDF, FileKind.PICTURE]
    )
    most: int = Field(default=3, ge=1, le=MOST_FILES)
    megabytes: int = Field(default=20, ge=1, le=max(MEGABYTES.values()))


class UploadPart(PersonPart):
    """`files`: which are taken."""

    kind: Literal["upload"]
    files: FilesModel = Field(default_factory=FilesModel)

    def key(self, values: Values, stream: SeededStream) -> UploadKey:
        rules = FileRules(
            tuple(dict.fromkeys(self.files.kinds)), self.files.most, self.files.megabytes
        )
        model, label = fill(self.model, values), fill(self.label, values)
        return UploadKey(self.id, label, model, self.criteria_of(), rules)


@dataclass(frozen=True, slots=True)
class UploadKey(PersonKey):
    """A response names what was sent, a name on each line, for whoever reads it; the files are
    kept beside it."""

    rules: FileRules = A_FEW_PAGES

    @property
    def kind(self) -> Literal["upload"]:
        return "upload"

    @property
    def files(self) -> FileRules:
        return self.rules

    def presented(self, html: Html) -> UploadPartOut:
        return UploadPartOut(
            kind="upload",
            id=self.id,
            label=self.label,
            endings=self.rules.endings,
            most=self.rules.most,
            megabytes=self.rules.megabytes,
        )


class UploadPartOut(PartOut):
    """Endings of names that are taken, and how many and how large files may be."""

    kind: Literal["upload"]
    endings: list[str]
    most: int
    megabytes: int

    def any_response(self) -> str:
        return "working.pdf"
