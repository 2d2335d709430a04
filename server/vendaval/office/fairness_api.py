"""Endpoints of the office to check that a test is fair to two groups it names."""

from __future__ import annotations

from typing import Annotated, Literal

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Query, Router
from pydantic import BaseModel, Field

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Test
from vendaval.exams.outcomes.fairness import Compared, compared, sat_by
from vendaval.people.models import School
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval_core.measure.analysis.fairness import ENOUGH, Difference

from .scope import groups_of, school_of

router = Router(auth=signed_in, tags=["office"])
MOST = 200
Groups = Annotated[list[int], Field(max_length=40)]


class FairChoiceOut(BaseModel):
    id: int
    title: str


class FairQuestionOut(BaseModel):
    """A question. `size`: A none or slight, B moderate, C large; `harder`: for whom it is harder
    than for others of the same standing; null where it can't be told."""

    title: str
    size: Difference | None
    harder: Literal["one", "other"] | None
    says: str


class FairnessOut(BaseModel):
    """What there is to choose; and what was found, once a test and two groups are chosen. `needed`:
    learners in each; `one`, `other`: how many there are."""

    tests: list[FairChoiceOut]
    groups: list[FairChoiceOut]
    needed: int
    one: int | None
    other: int | None
    questions: list[FairQuestionOut]


class FairnessIn(BaseModel):
    """A test, and the groups on either side."""

    test: int | None = None
    one: Groups = []
    other: Groups = []


@router.get("/office/fairness", response=FairnessOut, operation_id="check_fairness")
def check_fairness(request: HttpRequest, wanted: Query[FairnessIn]) -> FairnessOut:
    """Whether a test is harder for some than for others of the same standing."""
    school = school_of(current_user(request), "check_fairness")
    tests = Test.objects.filter(course__school=school, mirror_of=None, rehearsal=False)
    taken = tests.filter(attempts__marked=True).distinct().order_by("-pk")[:MOST]
    groups = list(groups_of(school)[:MOST])
    found = FairnessOut(
        tests=[FairChoiceOut(id=one.pk, title=one.title) for one in taken],
        groups=[FairChoiceOut(id=one.pk, title=one.title) for one in groups],
        needed=ENOUGH,
        one=None,
        other=None,
        questions=[],
    )
    if wanted.test is None or not wanted.one or not wanted.other:
        return found
    return _checked(school, wanted, found)


def _checked(school: School, wanted: FairnessIn, found: FairnessOut) -> FairnessOut:
    assert wanted.test is not None, "asked for by the caller"
    test = Test.objects.filter(course__school=school, pk=wanted.test).first()
    known = set(groups_of(school).values_list("pk", flat=True))
    if test is None or not {*wanted.one, *wanted.other} <= known:
        raise NotFound(gettext("Your school doesn’t have this test or group."))
    if set(wanted.one) & set(wanted.other):
        says = gettext("A group can be on one side only.")
        raise Unprocessable(says, fields={"other": says})
    one, other = sat_by(test, wanted.one), sat_by(test, wanted.other)
    both = one.keys() & other.keys()
    here = [answers for pk, answers in one.items() if pk not in both]
    there = [answers for pk, answers in other.items() if pk not in both]
    rows = compared(here, there, course_bank(test.course))
    found.one, found.other = len(here), len(there)
    found.questions = [_question_out(row) for row in rows]
    found.questions.sort(key=lambda row: row.size or "", reverse=True)
    return found


def _question_out(row: Compared) -> FairQuestionOut:
    if row.found is None:
        says = gettext("Everybody has it right, or everybody wrong.")
        return FairQuestionOut(title=row.title, size=None, harder=None, says=says)
    size = row.found.size
    if size is Difference.SLIGHT:
        return FairQuestionOut(title=row.title, size=size, harder=None, says="")
    says = {
        Difference.MODERATE: gettext("Somewhat harder. Would every learner read it the same way?"),
        Difference.LARGE: gettext("Much harder. Does it ask for more than its topic?"),
    }[size]
    harder: Literal["one", "other"] = "other" if row.found.delta < 0 else "one"
    return FairQuestionOut(title=row.title, size=size, harder=harder, says=says)
