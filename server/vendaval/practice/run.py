"""What practice is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn, Strict


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


class PracticeNote(RunNote):
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


class IdeasIn(Strict):
    kind: Literal["ideas"]
    families: Annotated[
        list[Annotated[str, Field(max_length=60)]], Field(min_length=1, max_length=60)
    ]


class QuestionsIn(Strict):
    """families: to ask these only, by turns; all of the topics' where there are none."""

    kind: Literal["questions"]
    questions: Annotated[int, Field(ge=1, le=100)]
    families: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=60)] = []


class StartPracticeIn(StartIn):
    """One topic or a mix of several, by turns. goal: to the targets, unless it says otherwise."""

    purpose: Literal[Purpose.PRACTICE]
    topics: Annotated[
        list[Annotated[str, Field(max_length=50)]], Field(min_length=1, max_length=40)
    ]
    goal: Annotated[IdeasIn | QuestionsIn, Field(discriminator="kind")] | None = None
