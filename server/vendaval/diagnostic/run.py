"""What a diagnostic is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn


class AheadNote(BaseModel):
    """Questions expected in a topic, and what that was worked out from."""

    mean: float
    sd: float
    answers: int
    left: float
    spread: float = 0.0


class DiagnosticNote(RunNote):
    """subject: its key, "" for all. asked: families in order. statuses, ahead: by topic key.
    stretch: seconds without a pause. rapid: answers running that came too fast to tell anything.
    most: questions of a freshening, which ends there."""

    of: Literal["diagnostic"] = "diagnostic"
    subject: str | None = None
    asked: list[str] = []
    statuses: dict[str, Literal["open", "settled", "close", "exhausted"]] = {}
    questions_left: int = 0
    fewest_left: int = 0
    most_left: int = 0
    ahead: dict[str, AheadNote] = {}
    stretch: float = 0.0
    rapid: int = 0
    most: int | None = None


class StartDiagnosticIn(StartIn):
    """subject: its key, or null for all. fresh: some questions over what has faded instead."""

    purpose: Literal[Purpose.DIAGNOSTIC]
    subject: str | None = None
    fresh: bool | None = None
