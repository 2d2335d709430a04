"""What JSON columns of the log hold."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Verdict = Literal["right", "partly", "wrong", "waiting", "not_taught", "not_counted"]


class Place(BaseModel):
    key: str
    title: str


class Why(BaseModel):
    """The terms that made a question the one to ask; `rule` says which of them there are."""

    rule: str = ""
    gain: float | None = None
    best_gain: float | None = None
    uncertain: float | None = None
    near: int = 1
    success: float | None = None
    easier: bool = False
    swap: str | None = None
    swap_topic: Place | None = None


class Reply(BaseModel):
    """What was said to a try: feedback, what became of each part, and what was reached by it."""

    verdict: Verdict
    headline: str
    detail: str
    results: dict[str, str] = {}
    met_says: str | None = None
    mended: bool = False


Stroke = Annotated[str, Field(min_length=3, max_length=4000, pattern=r"^[0-9., ]+$")]


class WorkingNote(BaseModel):
    """The working area of a try. lines: text, with formulas in TeX between dollars. strokes: of a
    sketch on a sheet of 800 by 500, each a list of points "x,y x,y"."""

    model_config = ConfigDict(extra="forbid")
    lines: Annotated[str, Field(max_length=4000)] = ""
    strokes: Annotated[list[Stroke], Field(max_length=200)] = []

    @property
    def empty(self) -> bool:
        """Whether nothing is in it."""
        return not self.lines.strip() and not self.strokes


class AheadNote(BaseModel):
    """Questions expected in a topic, and what that was worked out from."""

    mean: float
    sd: float
    answers: int
    left: float
    spread: float = 0.0


class DiagnosticNote(BaseModel):
    """asked: families in order. statuses, ahead: by topic key. stretch: seconds without a pause.
    most: questions of a freshening, which ends there."""

    of: Literal["diagnostic"] = "diagnostic"
    asked: list[str] = []
    statuses: dict[str, Literal["open", "settled", "exhausted"]] = {}
    questions_left: int = 0
    fewest_left: int = 0
    most_left: int = 0
    ahead: dict[str, AheadNote] = {}
    stretch: float = 0.0
    most: int | None = None


class StudyOwed(BaseModel):
    """A family whose study section comes before the next question; read: once it was opened. No
    clock is asked, so none that goes back keeps anybody waiting."""

    family: str
    read: bool = False


class TargetGoal(BaseModel):
    """To the target of every topic."""

    kind: Literal["target"] = "target"


class IdeasGoal(BaseModel):
    """Chosen ideas, two right first answers each. right: so far in this run, by family."""

    kind: Literal["ideas"]
    families: Annotated[list[str], Field(min_length=1, max_length=60)]
    right: dict[str, int] = {}


class QuestionsGoal(BaseModel):
    """A number of questions, of some families where they are named. done: so far."""

    kind: Literal["questions"]
    questions: Annotated[int, Field(ge=1, le=100)]
    families: list[str] = []
    done: int = 0


Goal = Annotated[TargetGoal | IdeasGoal | QuestionsGoal, Field(discriminator="kind")]


class PracticeNote(BaseModel):
    """misses: in a row. missed: in a row by family. fresh: fresh versions taken, by root. asked:
    questions by topic. reached: whether the goal was."""

    of: Literal["practice"] = "practice"
    last: str | None = None
    misses: int = 0
    missed: dict[str, int] = {}
    fresh: dict[str, int] = {}
    study_first: StudyOwed | None = None
    asked: dict[str, int] = {}
    goal: Goal = TargetGoal()
    reached: bool = False


class MendNote(BaseModel):
    """The miss that is being mended."""

    of: Literal["mend"] = "mend"
    miss: int


class RecheckNote(BaseModel):
    """left: families still to be asked, in order. days: since each topic was met or last held.
    held: what was found, by topic."""

    of: Literal["recheck"] = "recheck"
    left: list[str] = []
    days: dict[str, float] = {}
    held: dict[str, bool] = {}


class QuizIdea(BaseModel):
    """An idea still to be asked, and why it is in."""

    family: str
    essential: bool
    success: float


class QuizNote(BaseModel):
    """left: ideas still to be asked, in order. questions: of the whole. right: so far."""

    of: Literal["quiz"] = "quiz"
    left: list[QuizIdea] = []
    questions: int = 0
    right: int = 0


class NoNote(BaseModel):
    of: Literal["nothing"] = "nothing"


RunNote = Annotated[
    DiagnosticNote | PracticeNote | MendNote | RecheckNote | QuizNote | NoNote,
    Field(discriminator="of"),
]


def empty_note() -> NoNote:
    """The note of a run whose activity keeps none."""
    return NoNote()
