"""What browsers get and send about mark books."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.exams.columns import Exact
from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict
from vendaval_core.assessment.mark_book import CellState

from .columns import BookData, Counts, Kind
from .models import EnteredKind

Title = Annotated[str, Field(min_length=1, max_length=60)]
Why = Annotated[str, Field(min_length=1, max_length=200)]
MOST_ENTRIES = 400


class TermIn(Strict):
    """A new term. like: another of the group whose categories and scale it takes over."""

    title: Title
    begins: date
    ends: date
    like: int | None = None


class TermEdit(BaseModel):
    """What of a term can be edited."""

    title: Title
    begins: date
    ends: date
    book: BookData


class ChangeTermIn(TermEdit, Edited):
    """A change of a term."""


class TermOut(BaseModel):
    id: int
    title: str
    begins: date
    ends: date
    closed: datetime | None


class TermsOut(BaseModel):
    """Terms of a group, the latest first."""

    group: str
    terms: list[TermOut]


class CategoryOut(BaseModel):
    key: str
    title: str
    weight: float
    drop: int


class ColumnOut(BaseModel):
    """A piece of work. test, task: number of it, for links. of: points of work from outside."""

    key: str
    title: str
    kind: Kind
    category: str | None
    on: date | None
    counts: Counts
    test: int | None
    task: int | None
    of: float | None
    shown: bool
    never_told: bool


class MarkCellOut(BaseModel):
    """mark: on the scale, of what is released. held: one that isn't, for staff only. entered: a
    tutor entered it. counts: whether the mark counts, or that it was done."""

    standing: CellState
    mark: float | None
    held: float | None
    late: bool
    dropped: bool
    entered: bool
    counts: Counts


class FixedMarkOut(BaseModel):
    """A mark of a closed term. corrected: the one that stands in its place now."""

    mark: float | None
    corrected: float | None


class MarkRowOut(BaseModel):
    """A learner's row. stands: the mark that stands, rounded: so far, or once the term is closed
    the one that was fixed or corrected. mark: by the work as it is now; exact: before rounding.
    low, high: what it can still become. fixed: once the term is closed."""

    learner: int
    name: str
    cells: list[MarkCellOut]
    stands: float | None
    mark: float | None
    exact: float | None
    band: str
    below: bool
    low: float | None
    high: float | None
    fixed: FixedMarkOut | None


class MarkBookOut(BaseModel):
    """Everybody's marks in a term."""

    group: str
    term: TermOut
    closed_by: str
    headline: str
    most: int
    pass_mark: float | None
    bands: list[str]
    categories: list[CategoryOut]
    columns: list[ColumnOut]
    learners: list[MarkRowOut]
    edit: TermEdit
    version: str


class WorkMarkOut(BaseModel):
    """One piece of work in a row."""

    column: str
    title: str
    cell: MarkCellOut
    why: str


class PartOut(BaseModel):
    """A category in a row. mean: on the scale, None while nothing counts. No key: what counts
    nowhere."""

    key: str | None
    title: str
    weight: float
    mean: float | None
    works: list[WorkMarkOut]


class CorrectionOut(BaseModel):
    mark: float
    why: str
    by: str
    at: datetime


class EnteredOut(BaseModel):
    """Something a tutor entered, for tutors."""

    column: str
    title: str
    kind: EnteredKind
    mark: float | None
    why: str
    by: str
    at: datetime


class RowDetailOut(BaseModel):
    """How a learner's mark was worked out. outlook: what the next work can change. entered: only
    for tutors."""

    term: TermOut
    group: str
    name: str
    most: int
    row: MarkRowOut
    sum: str
    parts: list[PartOut]
    outlook: list[str]
    corrections: list[CorrectionOut]
    entered: list[EnteredOut] = []


class OwnMarksOut(BaseModel):
    """A learner's marks, the latest term first."""

    terms: list[RowDetailOut]


class EntryIn(Strict):
    """What is entered for one learner. mark: in points of the column, or on the scale for work of
    the group."""

    learner: int
    kind: EnteredKind
    mark: Exact | None = None


class EntriesIn(Strict):
    """What is entered in a column. why: for everybody; needed for all but work from outside."""

    column: Annotated[str, Field(max_length=40)]
    entries: Annotated[list[EntryIn], Field(min_length=1, max_length=MOST_ENTRIES)]
    why: Annotated[str, Field(max_length=200)] = ""


class CorrectionIn(Strict):
    learner: int
    mark: Exact
    why: Why


class StillOpenOut(BaseModel):
    """A cell that keeps a term from being closed."""

    learner: str
    title: str
    standing: CellState


class ClosingOut(BaseModel):
    """What closing a term means. undecided: what must be decided first. open: work that isn't
    handed in and would be missing."""

    learners: int
    undecided: list[StillOpenOut]
    open: list[StillOpenOut]
    missing_says: str


class MarksFileOut(BaseModel):
    """What a table of marks changes. changes: in words, at most a page of them. faults: cells that
    can't be read. ignored: columns that aren't entered by hand."""

    count: int
    changes: list[str]
    faults: list[str]
    ignored: list[str]
