"""Common wrong answers, as authors' browsers get them."""

from __future__ import annotations

from pydantic import BaseModel


class SlipOut(BaseModel):
    """A slip and what it explains. `of`: wrong answers that no near miss covers. `also`: formulas
    that explain about as much. `fails`: versions where it would be right."""

    formula: str
    how: str
    answers: int
    learners: int
    versions: int
    of: int
    also: list[str]
    fails: list[int]


class SaidOut(BaseModel):
    """A wrong answer that several gave, by thirds of learners. `close_to`: an accepted spelling."""

    answer: str
    lower: int
    middle: int
    upper: int
    close_to: str


class WrongAnswersOut(BaseModel):
    """`answers`: first ones. `foreseen`: wrong ones that a near miss covers."""

    answers: int
    wrong: int
    foreseen: int
    slips: list[SlipOut]
    said: list[SaidOut]
