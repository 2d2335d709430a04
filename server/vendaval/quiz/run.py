"""What a quiz is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn


class QuizIdea(BaseModel):
    """An idea still to be asked, and why it is in."""

    family: str
    essential: bool
    success: float


class QuizNote(RunNote):
    """left: ideas still to be asked, in order. questions: of the whole. right: so far."""

    of: Literal["quiz"] = "quiz"
    left: list[QuizIdea] = []
    questions: int = 0
    right: int = 0


class StartQuizIn(StartIn):
    """A quiz of one's own over some topics."""

    purpose: Literal[Purpose.QUIZ]
    topics: Annotated[
        list[Annotated[str, Field(max_length=50)]], Field(min_length=1, max_length=40)
    ]
    questions: Annotated[int, Field(ge=2, le=40)]
