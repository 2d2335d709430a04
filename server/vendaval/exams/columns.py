"""What JSON columns of tests and attempts hold, each beside the core's own value."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from fractions import Fraction
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, PlainSerializer, WithJsonSchema

from vendaval.delivery.schemas import ReadingOut
from vendaval.shared.responses import Stored
from vendaval.work.columns import WorkingNote
from vendaval_core.assessment.attempt import Attempt, HandedIn, HandedInBy
from vendaval_core.assessment.clock import Interval
from vendaval_core.assessment.composition import Composition, Entry, Place, Section
from vendaval_core.assessment.paper import MOST_MINUTES, USUAL_MINUTES, PagesWanted, Paper
from vendaval_core.assessment.points import Adjusted, QuestionPoints, Total
from vendaval_core.assessment.rules import (
    USUAL_BANDS,
    USUAL_TOOLS,
    Band,
    ClockKind,
    LateWork,
    Navigation,
    ReleaseRules,
    Rules,
    ScoreKept,
    SubmissionMode,
    Tool,
    When,
    WorkingWanted,
    usual_release,
)
from vendaval_core.items.kinds.protocol import Criterion


def _fraction(value: Any) -> Fraction:
    if isinstance(value, Fraction):
        return value
    try:
        return Fraction(value)
    except (TypeError, ZeroDivisionError) as error:
        raise ValueError("a number such as 0.5 or 1/3") from error


Exact = Annotated[
    Fraction,
    BeforeValidator(_fraction),
    PlainSerializer(str, return_type=str),
    WithJsonSchema({"type": "string", "pattern": r"^-?\d+(/\d+)?$"}),
]
Text = Annotated[str, Field(max_length=4000)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Key = Annotated[str, Field(max_length=60)]


class Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ReleaseData(Kept):
    """When each is told."""

    score: When = When.HANDED_IN
    correctness: When = When.HANDED_IN
    answers: When = When.HANDED_IN
    solutions: When = When.HANDED_IN

    @classmethod
    def usual(cls, *, same_versions: bool) -> ReleaseData:
        found = usual_release(same_versions=same_versions)
        return cls(
            score=found.score,
            correctness=found.correctness,
            answers=found.answers,
            solutions=found.solutions,
        )


class BandData(Kept):
    name: Annotated[str, Field(max_length=30)]
    least: Exact


def _usual_bands() -> list[BandData]:
    return [BandData(name=band.name, least=band.least) for band in USUAL_BANDS]


class RulesData(Kept):
    """The rules of a test; see the core's `Rules`."""

    attempts: int | None = 1
    score_kept: ScoreKept = ScoreKept.FIRST
    navigation: Navigation = Navigation.NONLINEAR
    submission: SubmissionMode = SubmissionMode.SIMULTANEOUS
    tries: int = 1
    off_per_miss: Exact = Fraction(0)
    off_wrong: Exact = Fraction(0)
    minutes: int | None = None
    clock: ClockKind = ClockKind.RUNS_ON
    one_sitting: bool = False
    late: LateWork = LateWork.NOT_TAKEN
    late_off: Exact = Fraction(0)
    release: ReleaseData = ReleaseData()
    tools: list[Tool] = sorted(USUAL_TOOLS)
    bands: list[BandData] = Field(default_factory=_usual_bands)
    pass_mark: Exact | None = None
    scale: int = 20
    working: WorkingWanted = WorkingWanted.NONE
    open_book: bool = False

    def core(self) -> Rules:
        """As the core takes them."""
        told, own = self.release, self.model_dump(exclude={"release", "tools", "bands"})
        own |= {name: getattr(self, name) for name in ("off_per_miss", "off_wrong", "late_off")}
        return Rules(
            **{**own, "pass_mark": self.pass_mark},
            release=ReleaseRules(told.score, told.correctness, told.answers, told.solutions),
            tools=frozenset(self.tools),
            bands=tuple(Band(band.name, band.least) for band in self.bands),
        )


class EntryData(Kept):
    """One family, or a draw of `count` from several."""

    families: Annotated[list[Key], Field(min_length=1, max_length=400)]
    count: Annotated[int, Field(ge=1, le=120)] = 1
    points: Exact = Fraction(1)
    working: bool = False


class SectionData(Kept):
    title: Name
    directions: Text = ""
    entries: Annotated[list[EntryData], Field(max_length=120)]
    minutes: Annotated[int, Field(ge=1, le=600)] | None = None
    shuffled: bool = False
    one_page: bool = False
    forward_only: bool = False

    def core(self) -> Section:
        """As the core takes it."""
        return Section(
            self.title,
            tuple(Entry(tuple(e.families), e.count, e.points, e.working) for e in self.entries),
            self.minutes,
            self.shuffled,
            self.one_page,
            self.forward_only,
        )


class CompositionData(Kept):
    """What a test is made of; see the core's `Composition`."""

    sections: Annotated[list[SectionData], Field(max_length=20)]
    seed: int = 1
    same_versions: bool = True
    shuffled_choices: bool = False

    def core(self) -> Composition:
        """As the core takes it."""
        sections = tuple(section.core() for section in self.sections)
        return Composition(sections, self.seed, self.same_versions, self.shuffled_choices)


def empty_composition() -> CompositionData:
    """Of a test that is still to be composed."""
    return CompositionData(sections=[])


class IntervalData(BaseModel):
    id: int
    entered: datetime
    seen: datetime
    left: datetime | None = None


class StandingData(BaseModel):
    """How an attempt stands; see the core's `Attempt`."""

    limits: list[float | None] = [None]
    stretches: list[datetime] = []
    cut_off: datetime | None = None
    intervals: list[IntervalData] = []
    position: int = 1
    handed_in_at: datetime | None = None
    handed_in_by: HandedInBy | None = None
    paused: datetime | None = None

    def core(self, rules: Rules, places: Sequence[PlaceData]) -> Attempt:
        """As the core takes it. places: of the attempt."""
        handed_in = None
        if self.handed_in_at is not None and self.handed_in_by is not None:
            handed_in = HandedIn(self.handed_in_at, self.handed_in_by)
        return Attempt(
            rules,
            tuple(self.limits),
            tuple(self.stretches),
            self.cut_off,
            tuple(Interval(i.id, i.entered, i.seen, i.left) for i in self.intervals),
            self.position,
            handed_in,
            self.paused,
            tuple(place.core() for place in places),
        )

    @classmethod
    def of(cls, attempt: Attempt) -> StandingData:
        """To keep what the core made of it."""
        handed = attempt.handed_in
        return cls(
            limits=list(attempt.limits),
            stretches=list(attempt.stretches),
            cut_off=attempt.cut_off,
            intervals=[
                IntervalData(id=i.id, entered=i.entered, seen=i.seen, left=i.left)
                for i in attempt.intervals
            ],
            position=attempt.position,
            handed_in_at=None if handed is None else handed.at,
            handed_in_by=None if handed is None else handed.by,
            paused=attempt.paused,
        )


class PlaceData(BaseModel):
    """A question's place in an attempt; see the core's `Place`."""

    number: int
    section: int
    family: str
    seed: int
    order: int
    points: Exact
    page: int | None = None
    working: bool = False
    forward_only: bool = False

    def core(self) -> Place:
        """As the core takes it. Those of attempts before there were pages stand alone."""
        return Place(**{**dict(self), "page": self.page or self.number})

    @classmethod
    def of(cls, place: Place) -> PlaceData:
        """To keep what the core laid out."""
        return cls(**asdict(place))


class PlacePoints(BaseModel):
    """Points of one question of an attempt; see the core's `QuestionPoints`."""

    of: Exact
    reached: Exact | None
    share: Exact | None
    empty: bool
    adjusted: Adjusted | None = None

    @classmethod
    def of_core(cls, points: QuestionPoints) -> PlacePoints:
        """To keep what the core worked out."""
        names = ("of", "reached", "share", "empty", "adjusted")
        return cls(**{name: getattr(points, name) for name in names})


class TotalData(BaseModel):
    """Points of an attempt, as far as they are marked; see the core's `Total`. places: by number of
    the question; none in what was marked before they were kept."""

    reached: Exact
    marked: Exact
    of: Exact
    waiting: int
    late_off: Exact = Fraction(0)
    places: dict[int, PlacePoints] = {}

    def core(self) -> Total:
        """As the core takes it, which is what two of them are compared by."""
        return Total(self.reached, self.marked, self.of, self.waiting, self.late_off)

    @classmethod
    def of_core(cls, total: Total, places: Mapping[int, QuestionPoints]) -> TotalData:
        """To keep what the core worked out. places: points by number of the question."""
        return cls(
            reached=total.reached,
            marked=total.marked,
            of=total.of,
            waiting=total.waiting,
            late_off=total.late_off,
            places={number: PlacePoints.of_core(one) for number, one in places.items()},
        )


class MarkedText(Kept):
    """A stretch of a question's text that the learner marked. at: where it starts among the
    characters of the prompt; length: of it."""

    at: Annotated[int, Field(ge=0, le=20000)]
    length: Annotated[int, Field(ge=1, le=20000)]


class SoFarData(Kept):
    """What a learner has put down at a question. struck: choices struck out, by part."""

    responses: Stored = {}
    flagged: bool = False
    note: Annotated[str, Field(max_length=2000)] = ""
    marked: Annotated[list[MarkedText], Field(max_length=60)] = []
    struck: Annotated[
        dict[Annotated[str, Field(max_length=30)], list[Annotated[str, Field(max_length=60)]]],
        Field(max_length=12),
    ] = {}
    working: WorkingNote | None = None
    on_paper: bool = False
    sheet: Annotated[int, Field(ge=1, le=40)] | None = None

    @property
    def answered(self) -> bool:
        """Whether anything was answered."""
        return any(text.strip() for text in self.responses.values())


class LateSave(BaseModel):
    """A save that came after the end: kept, and it does not count."""

    responses: dict[str, str]
    at: datetime


class LevelStep(BaseModel):
    """A topic's level just before and just after an attempt was marked."""

    topic: str
    before: ReadingOut
    after: ReadingOut


class PaperData(BaseModel):
    """Pages of an attempt; see the core's `Paper`. link: number of the phone's link that is good.
    shown_at, shown_by: when and to whom, by name, its sheets were shown."""

    wanted: PagesWanted = PagesWanted.NONE
    minutes: Annotated[int, Field(ge=1, le=MOST_MINUTES)] = USUAL_MINUTES
    all_in_at: datetime | None = None
    closed_at: datetime | None = None
    link: int = 0
    shown_at: datetime | None = None
    shown_by: str = ""

    def core(self) -> Paper:
        """As the core takes it."""
        return Paper(self.wanted, self.minutes, self.all_in_at, self.closed_at)


class CriterionData(Kept):
    """What a marker looks for, and its points."""

    says: Annotated[str, Field(min_length=1, max_length=200)]
    points: Annotated[int, Field(ge=1, le=20)]

    def core(self) -> Criterion:
        """As the core takes it."""
        return Criterion(self.says, self.points)


class NoteInText(Kept):
    """A comment set into an answer's text. at, length: the stretch of characters it is about."""

    at: Annotated[int, Field(ge=0, le=20000)]
    length: Annotated[int, Field(ge=1, le=20000)]
    says: Annotated[str, Field(min_length=1, max_length=400)]


class MarkingData(Kept):
    """A marking. points: by number of the criterion, from 0, or under 0 the whole where there are
    no criteria. share: of the part, 0 to 1. adjusted: whose points were adjusted and why, in
    words."""

    points: dict[int, Exact] = {}
    share: Exact = Fraction(0)
    comment: Annotated[str, Field(max_length=2000)] = ""
    notes: Annotated[list[NoteInText], Field(max_length=40)] = []
    adjusted: Annotated[str, Field(max_length=300)] = ""


class RegradeWay(Kept):
    """How a question is regraded. again: by its key as it is now. accept: an answer counts as right
    too, `canonical` to a `part`, in the version with this `seed`, or in every one where it is null.
    `canonical` is what tells the answer from others, see the core's
    `same_answer`. full: full marks for all. drop: it counts for nobody."""

    kind: Literal["again", "accept", "full", "drop"] = "again"
    part: Annotated[str, Field(max_length=30)] = ""
    canonical: Annotated[str, Field(max_length=2000)] = ""
    seed: int | None = None
