"""The rehearsal: every kind of question to try out. Nothing is stored and nothing counts."""

from __future__ import annotations

from pydantic import BaseModel

from vendaval.delivery.part_schemas import SoundOut
from vendaval.delivery.schemas import PartStateOut
from vendaval.shared.responses import Responses
from vendaval.work.schemas import Strict
from vendaval_core.items.kinds.registry import AnyPartOut
from vendaval_core.items.presented import FigureOut


class RehearsalQuestionOut(BaseModel):
    """A question to try, with tips on how its kind is answered."""

    key: str
    title: str
    prompt_html: str
    stimulus_html: str | None
    figure: FigureOut | None
    sound: SoundOut | None
    parts: list[AnyPartOut]
    states: list[PartStateOut]
    tips: list[str]


class RehearsalOut(BaseModel):
    """`whole`: whether there is a whole test to rehearse too."""

    whole: bool
    questions: list[RehearsalQuestionOut]


class TriedOut(BaseModel):
    """What came of a try: the parts as they stand, and a sentence."""

    states: list[PartStateOut]
    says: str


class TryIn(Strict):
    responses: Responses
