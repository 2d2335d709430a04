"""What the browser gets of everybody's results of a test."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

SatState = Literal["not_begun", "under_way", "handed_in", "waiting", "held", "told"]
CellResult = Literal["right", "partly", "wrong", "empty", "waiting", "dropped"]


class OutcomeColumnOut(BaseModel):
    """A question of a test, as far as learners share it. `of`: points; learners who drew another
    question have none in this column."""

    family: str
    title: str
    topic: str
    of: float


class OutcomeCellOut(BaseModel):
    """A learner's answer to a question. `share`: of its points, 0 to 1; null while it waits for
    marks. `tried`: the try to look at."""

    number: int
    result: CellResult
    points: float | None
    share: float | None
    seconds: int
    tried: int | None


class AttemptBriefOut(BaseModel):
    """One of a learner's attempts. `kept`: whether its score counts."""

    id: int
    number: int
    per_cent: float | None
    handed_in: datetime | None
    kept: bool


class SatOut(BaseModel):
    """A learner at a test: `cells`, points and minutes of the attempt that counts, or of the one
    under way; cells stand by column, null where the learner had another question. `answered`, `of`:
    questions of that attempt. `until`: when its time is up."""

    learner: int
    name: str
    state: SatState
    attempts: list[AttemptBriefOut]
    attempt: int | None
    points: float | None
    out_of: float | None
    per_cent: float | None
    scaled: float | None
    band: str
    minutes: int | None
    late: bool
    answered: int
    of: int
    until: datetime | None
    cells: list[OutcomeCellOut | None]


class SpreadOut(BaseModel):
    """How results are spread: see the core's `Spread`. Per cent."""

    count: int
    mean: float
    median: float
    sd: float
    tenths: list[int]
    passed: int | None


class OutcomesOut(BaseModel):
    """Everybody of a group at a test. `shared`: other groups it was given to at once; `together`:
    whether theirs are among these. `scale`: of marks. `can_analyse`: whether there are enough
    attempts to say something about the test."""

    group: str
    together: bool
    shared: list[str]
    test: str
    headline: str
    scale: int
    pass_mark: float | None
    columns: list[OutcomeColumnOut]
    learners: list[SatOut]
    spread: SpreadOut | None
    can_analyse: bool
    server_now: datetime


class AnswerThirdsOut(BaseModel):
    """A wrong answer, and how many of the lower, middle and upper third gave it."""

    answer: str
    lower: int
    middle: int
    upper: int


class QuestionSeenOut(BaseModel):
    """What a question did. `share`: of its points, with the ends of a 95% interval; `expected`:
    from its curve and these learners' levels; `rest`: correlation with the rest of the test;
    `thirds`: share in the lower, middle and upper third. `doubtful`: whether its key is to be
    looked at; `says`: what to ask, empty if nothing stands out. `seconds`: in the middle."""

    family: str
    title: str
    topic: str
    attempts: int
    share: float
    low: float
    high: float
    expected: float | None
    rest: float | None
    thirds: list[float]
    empty: int
    flagged: int
    unreached: int
    seconds: int
    doubtful: bool
    says: str
    answers: list[AnswerThirdsOut]


class StandOutOut(BaseModel):
    """Somebody whose result is far from what their levels let expect, per cent."""

    learner: int
    name: str
    per_cent: int
    expected: int


class FiguresOut(BaseModel):
    """The test as a whole, on the scale. `alpha` with its 95% interval, `error`: of a mark; null
    where learners had too few questions in common. `agreement`: correlation of the results with
    what the levels let expect; `standouts`: whose is far from that. `numbers`: share of the spread
    that is due to the learners' own numbers. `tenths`: attempts by tenths of
    the scale."""

    mean: float
    median: float
    sd: float
    scale: int
    tenths: list[int]
    passed: int | None
    alpha: float | None
    alpha_low: float | None
    alpha_high: float | None
    error: float | None
    says: str
    near_pass: str
    agreement: float | None
    standouts: list[StandOutOut]
    numbers: float | None
    minutes: int
    ran_out: int


class BesideOut(BaseModel):
    """One sitting of a test. mean, median, sd: per cent."""

    title: str
    attempts: int
    mean: int | None
    median: int | None
    sd: int | None


class ComparedQuestionOut(BaseModel):
    """A question in each sitting: per cent of the points. away: by how many points of 100 this
    sitting is above the others, where chance doesn't explain it."""

    family: str
    title: str
    shares: list[int | None]
    away: int | None


class SittingsComparedOut(BaseModel):
    """A test beside its other sittings, this one first."""

    sittings: list[BesideOut]
    questions: list[ComparedQuestionOut]


class AnalysisOut(BaseModel):
    """What a test says about itself; from ten attempts on, before that only how many there are."""

    group: str
    test: str
    headline: str
    attempts: int
    figures: FiguresOut | None
    questions: list[QuestionSeenOut]
