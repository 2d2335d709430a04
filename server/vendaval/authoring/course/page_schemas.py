"""What the page that edits a study page gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.authoring.schemas import ProblemOut, Why
from vendaval.bank.models import ResourceKind
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict
from vendaval_core.items.presented import FigureOut

MOST_SECTIONS = 30
MOST_RESOURCES = 40


class PageSectionIn(Strict):
    """A section; `key` is "" for a new one. `body`: Markdown, with its drawing in a line of its
    own."""

    key: Annotated[str, Field(max_length=60)]
    title: Annotated[str, Field(min_length=1, max_length=160, pattern=r"^[^\n{}]+$")]
    body: Annotated[str, Field(max_length=20_000)]


class PageResourceIn(Strict):
    """A film, a file or a link beside a section; `key` is "" for a new one, and so is what its
    kind doesn't need."""

    key: Annotated[str, Field(max_length=50)]
    title: Annotated[str, Field(min_length=1, max_length=120)]
    kind: ResourceKind
    section: Annotated[str, Field(min_length=1, max_length=60)]
    minutes: Annotated[int, Field(ge=1, le=120)]
    file: Annotated[str, Field(max_length=81)] = ""
    captions: Annotated[str, Field(max_length=81)] = ""
    url: Annotated[str, Field(max_length=300)] = ""


class PageSectionsIn(BaseModel):
    """The sections of a study page."""

    sections: Annotated[list[PageSectionIn], Field(max_length=MOST_SECTIONS)]


class StudyPageEdit(PageSectionsIn):
    """What of a study page can be edited."""

    resources: Annotated[list[PageResourceIn], Field(max_length=MOST_RESOURCES)]


class StudyPageIn(StudyPageEdit, Edited):
    """What is wanted of a study page, and why."""

    why: Why


class SectionShownOut(BaseModel):
    """A section as learners would see it."""

    html: str
    figure: FigureOut | None
    minutes: int


class PagePreviewOut(BaseModel):
    """`shown`: in the order of what was sent; none where something is wrong."""

    shown: list[SectionShownOut]
    problems: list[ProblemOut]


class AfterReadingOut(BaseModel):
    """First tries within 14 days of reading. `right`, `expected`: in per cent. `points`: by how
    many they were better than expected, with the ends of a 90% interval."""

    answers: int
    right: int
    expected: int
    points: int
    low: int
    high: int


class SectionUseOut(BaseModel):
    """`explains`: questions that point to a section. `readers`: learners who opened it. `after`:
    null while nobody answered after it."""

    key: str
    explains: list[PlaceOut]
    readers: int
    after: AfterReadingOut | None


class StudyPageToEditOut(StudyPageEdit):
    topic: PlaceOut
    version: str
    uses: list[SectionUseOut]
    drawings: list[str]


class PageRevisionOut(PageSectionsIn):
    """A study page as it was from a time on. `by`: empty for one from a pack."""

    by: str
    at: datetime
    why: str


class PageHistoryOut(BaseModel):
    """The newest first: that is the page as it is now."""

    revisions: list[PageRevisionOut]


class DrawingIn(Strict):
    """A drawing for a topic's study page or questions."""

    name: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,58}\.svg$")]
    svg: Annotated[str, Field(min_length=10, max_length=200_000)]


class FileKeptOut(BaseModel):
    """A file beside a study page, by its name there."""

    name: str
