"""What a regrading tutor's browser gets and sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import QuestionOut
from vendaval.work.schemas import Strict

from ..columns import RegradeWay
from ..models import RegradeState


class RegradeIn(Strict):
    """How a question is to be regraded, and why: learners read it."""

    way: RegradeWay
    why: Annotated[str, Field(min_length=3, max_length=400)]


class AcceptableOut(BaseModel):
    """An answer that was given and is not right: by so many `learners`, in the version with this
    `seed`."""

    part: str
    label: str
    canonical: str
    seed: int
    given: str
    learners: int


class RegradeOut(BaseModel):
    """A regrade. `done` of `of` attempts are through."""

    id: int
    family: str
    title: str
    says: str
    why: str
    by: str
    at: datetime
    state: RegradeState
    of: int
    done: int
    undone_by: str | None


class RegradableOut(BaseModel):
    """A question of a test that may be regraded. `mean`: per cent of its points, of what is marked;
    `contested`: marks of it that are contested."""

    family: str
    title: str
    mean: int | None
    attempts: int


class RegradesOut(BaseModel):
    test: str
    group: str
    questions: list[RegradableOut]
    regrades: list[RegradeOut]


class LookOut(BaseModel):
    """An answer to look at."""

    learner: int
    name: str
    tried: int
    share: int | None


class RegradeChoiceOut(BaseModel):
    """What there is to choose for one question. `question`: as one learner had it, with its key;
    `looks`: answers to look at, wrong ones first. `mended`: whether its key is another one now than
    when it was asked."""

    course: str
    family: str
    title: str
    question: QuestionOut
    looks: list[LookOut]
    mended: bool
    acceptable: list[AcceptableOut]


class RegradeLineOut(BaseModel):
    """An attempt before and after, in points and per cent."""

    attempt: int
    name: str
    before: str
    after: str
    before_per_cent: str
    after_per_cent: str


class RegradePreviewOut(BaseModel):
    """Every attempt that a regrade would change, and the mean of all. Nothing is stored."""

    changed: list[RegradeLineOut]
    attempts: int
    mean_before: str
    mean_after: str
