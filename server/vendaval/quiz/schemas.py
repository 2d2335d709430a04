"""A quiz as it would be made."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import PlaceOut


class QuizIdeaOut(BaseModel):
    """An idea of the quiz: never what is asked of it, but why it is in."""

    title: str
    topic: PlaceOut
    why: str


class QuizPlanOut(BaseModel):
    """What a quiz would ask, in no order. `minutes`: at the learner's own pace."""

    ideas: list[QuizIdeaOut]
    minutes: int


class QuizIn(BaseModel):
    """topics: keys with commas between them."""

    topics: Annotated[str, Field(min_length=1, max_length=1600)]
    questions: Annotated[int, Field(ge=2, le=40)]
