"""What JSON columns of the log hold."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from django.conf import settings
from django.utils.module_loading import import_string
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


class RunNote(BaseModel):
    """What an activity keeps about a run; `of` says which activity's it is."""

    of: str


class NoNote(RunNote):
    """The note of a run whose activity keeps none."""

    of: Literal["nothing"] = "nothing"


def any_note() -> Any:
    """The type of a run's note: that of every activity, which is known once all are loaded."""
    return import_string(settings.ACTIVITIES).any_note


def empty_note() -> NoNote:
    """The note of a run whose activity keeps none."""
    return NoNote()
