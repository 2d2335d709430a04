"""A question from examples, as browsers send it and what they get back."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator

from vendaval.work.schemas import Strict

MOST_EXAMPLES = 8
Written = Annotated[str, Field(min_length=1, max_length=40)]
Bound = Annotated[float, Field(ge=-1e6, le=1e6)]
Title = Annotated[str, Field(min_length=3, max_length=60)]


class ExampleMarkIn(Strict):
    """A marked number or word; see the core's `Mark`."""

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=30)]
    written: Annotated[list[Written], Field(min_length=1, max_length=MOST_EXAMPLES)]
    low: Bound = 0
    high: Bound = 0
    step: Annotated[float, Field(gt=0, le=1e6)] = 1
    forms: tuple[Written, Written] | None = None


class ExamplesIn(Strict):
    """A question, its marks, and the answers to some examples."""

    text: Annotated[str, Field(min_length=3, max_length=2000)]
    marks: Annotated[list[ExampleMarkIn], Field(min_length=1, max_length=6)]
    answers: Annotated[list[Written], Field(min_length=1, max_length=MOST_EXAMPLES)]
    direction: bool = False

    @model_validator(mode="after")
    def every_mark_has_every_example(self) -> ExamplesIn:
        if any(len(mark.written) != len(self.answers) for mark in self.marks):
            raise ValueError("each mark has a value for each answer")
        return self


class BeginFromExamplesIn(ExamplesIn):
    """The same with its formula: a draft is begun with it. `group`: as of a new question."""

    topic: Annotated[str, Field(max_length=60)]
    title: Title
    formula: Annotated[str, Field(min_length=1, max_length=400)]
    group: int | None = None


class ExplainsOut(BaseModel):
    """A formula that explains the examples. `would_be`: what it would give for what is asked."""

    formula: str
    words: str
    maths: str
    maths_html: str
    would_be: str


class FormulaOut(BaseModel):
    """`ask`: the numbers to answer for, one for each mark. `more`: formulas beside those in `fits`
    that explain everything too."""

    state: Literal["found", "asks", "none"]
    fits: list[ExplainsOut]
    more: int
    ask: list[str]
