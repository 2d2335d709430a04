"""One change of many questions, as browsers ask for it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator

from vendaval.work.schemas import Strict

# As many as fit into the address of their files, and as a page of the bank shows.
MOST = 50
Key = Annotated[str, Field(min_length=1, max_length=60)]
Keys = Annotated[list[Key], Field(min_length=1, max_length=MOST)]


class BulkIn(Strict):
    """`do`: what is done with each. `difficulty`, `topic`: the new one, where that is changed."""

    families: Keys
    do: Literal["essential", "not_essential", "difficulty", "topic", "retire"]
    why: Annotated[str, Field(min_length=3, max_length=300)]
    difficulty: Annotated[int, Field(ge=1, le=5)] | None = None
    topic: Annotated[str, Field(max_length=60)] = ""

    @model_validator(mode="after")
    def says_what_it_changes_to(self) -> BulkIn:
        if self.do == "difficulty" and self.difficulty is None:
            raise ValueError("a difficulty is missing")
        if self.do == "topic" and not self.topic:
            raise ValueError("a topic is missing")
        return self


class UnchangedOut(BaseModel):
    """A question that was left as it was, and why."""

    key: str
    title: str
    why: str


class BulkOut(BaseModel):
    """What was changed, by key, and what was left."""

    changed: list[str]
    left: list[UnchangedOut]


class FilesFilter(Strict):
    """Questions whose files are wanted."""

    families: Keys
