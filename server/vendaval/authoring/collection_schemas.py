"""A group's own questions, as browsers get them."""

from __future__ import annotations

from pydantic import BaseModel

from vendaval.delivery.schemas import PlaceOut


class OwnQuestionOut(BaseModel):
    """A question of a group's own. answers: first tries that may be told; right: per cent of them,
    null without any."""

    key: str
    title: str
    topic: PlaceOut
    published: bool
    drafted: bool
    stopped: bool
    answers: int
    right: int | None


class CollectionOut(BaseModel):
    """All of a group's. course: its key. topics: those that a question can be begun in."""

    course: str
    group: str
    topics: list[PlaceOut]
    questions: list[OwnQuestionOut]
