"""What the pages of trials get and send."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut
from vendaval.work.schemas import Strict


class TrialTextOut(BaseModel):
    """A text that can be held against a second one."""

    place: str
    name: str
    text: str


class TrialTextsOut(BaseModel):
    """Texts of a question, or a study section's one. `of`: what they are of."""

    of: PlaceOut
    texts: list[TrialTextOut]
    running: bool


class StartTrialIn(Strict):
    """A second text, and of what: `family` and `place`, or `topic` and `section`. `first`: the text
    as it was seen. `weeks`: when it ends without an answer."""

    family: Annotated[str, Field(max_length=60)] = ""
    place: Annotated[str, Field(max_length=60)] = ""
    topic: Annotated[str, Field(max_length=60)] = ""
    section: Annotated[str, Field(max_length=60)] = ""
    first: Annotated[str, Field(max_length=20_000)]
    second: Annotated[str, Field(min_length=3, max_length=20_000)]
    weeks: Annotated[int, Field(ge=1, le=52)] = 12


class EffectOut(BaseModel):
    """The effect of the second text in points of a hundred, and between what it lies with 90%."""

    points: float
    low: float
    high: float


class TrialOut(BaseModel):
    """A trial. `says`: how it stands, in a sentence. `better`: which text is, "" while unknown."""

    id: int
    name: str
    of: PlaceOut
    of_section: bool
    first: str
    second: str
    by: str
    began_at: datetime
    until: datetime
    ended: bool
    answers: int
    effect: EffectOut | None
    says: str
    better: str
    adopted: bool


class TrialsOut(BaseModel):
    course: str
    running: list[TrialOut]
    ended: list[TrialOut]
