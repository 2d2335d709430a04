"""What a recheck is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Literal

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn


class RecheckNote(RunNote):
    """left: families still to be asked, in order. days: since each topic was met or last held.
    asked: questions answered, by topic. held: what was found, by topic."""

    of: Literal["recheck"] = "recheck"
    left: list[str] = []
    days: dict[str, float] = {}
    asked: dict[str, int] = {}
    held: dict[str, bool] = {}


class StartRecheckIn(StartIn):
    """Of the topics that are due."""

    purpose: Literal[Purpose.RECHECK]
