"""Stories for a tutor to find: two with the same wrong answers, one for whom set work is too easy,
marks that are held, and a mark that is contested."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from fractions import Fraction
from random import Random

from vendaval.exams.attempts import handed_in_attempts
from vendaval.exams.columns import SoFarData
from vendaval.exams.marking.actions import mark_answer
from vendaval.exams.marking.schemas import MarkIn
from vendaval.exams.marking.to_mark import own_criteria, to_mark
from vendaval.exams.models import AnswerSoFar, Assignment, Attempt, MarkerRole
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.threads.actions import contest
from vendaval.threads.schemas import ContestIn
from vendaval.work.models import Mark

from .learners import keys_of_shown
from .sittings import sit

ALONE = ("leonor", "alda", "caetano", "duarte", "gil", "olivia", "ines", "tomas")
HELD = 2
WHY = (
    "I wrote the same as the worked solution says, only with another number of decimals. I think "
    "this is right."
)


def tell_stories(
    given: Sequence[Assignment], people: dict[str, User], tutor: User, now: datetime
) -> None:
    """given: the demo's tests, in their order."""
    signals, writing, chart, short, buoys = given[3:8]
    _two_alike(short, people["marta"], people["nuno"], now - timedelta(days=2))
    for i, name in enumerate(ALONE):
        at = now - timedelta(days=2, hours=i)
        sit(people[name], short, at, 0.3 + 0.08 * i, Random(f"alone:{i}"))
    for i, assignment in enumerate((chart, buoys, signals, short)):
        at = now - timedelta(days=5 - i, hours=2)
        sit(people["vasco"], assignment, at, 1.0, Random(i), answer=_all_right)
    _hold_marks(writing, tutor, now - timedelta(hours=6))
    _contest(people["tomas"], now - timedelta(hours=4))


def _all_right(answer: AnswerSoFar) -> SoFarData:
    return SoFarData(
        responses={key.id: key.examples.right for key in keys_of_shown(answer.presentation)}
    )


def _two_alike(assignment: Assignment, one: User, other: User, at: datetime) -> None:
    """One does as they can; the other has the same answers a little later."""
    sit(one, assignment, at, 0.3, Random("alike"))
    kept = {
        row.presentation.revision.family_id: row.data.responses
        for row in AnswerSoFar.objects.filter(
            attempt__enrolment__person=one, attempt__assignment=assignment
        ).select_related("presentation__revision")
    }

    def the_same(answer: AnswerSoFar) -> SoFarData:
        return SoFarData(responses=kept[answer.presentation.revision.family_id])

    sit(other, assignment, at + timedelta(minutes=4), 0.5, Random("other"), answer=the_same)


def _hold_marks(assignment: Assignment, tutor: User, at: datetime) -> None:
    """Some answers are marked, and not released yet."""
    parts = to_mark(handed_in_attempts(assignment), own_criteria(assignment.test_id))
    waiting = [part for found in parts.values() for part in found if not part.given]
    with clock.held_by(lambda: at):
        for part in waiting[:HELD]:
            points = dict.fromkeys(range(len(part.criteria)), Fraction(1)) or {0: Fraction(1, 2)}
            body = MarkIn(role=MarkerRole.FIRST, points=points, comment="Clear, and in order.")
            mark_answer(assignment, part.answer.pk, part.key.id, body, tutor)


def _contest(person: User, at: datetime) -> None:
    """The newest mark of a test that was not full, in the learner's eyes a wrong one."""
    missed = Mark.objects.filter(
        tried__enrolment__person=person,
        tried__presentation__run__attempt__in=Attempt.objects.filter(
            enrolment__person=person, assignment__isnull=False
        ),
        verdict="wrong",
    ).exclude(tried__presentation__visibility="nothing")
    found = missed.order_by("-pk").select_related("tried__enrolment__course").first()
    if found is not None:
        with clock.held_by(lambda: at):
            question = found.tried.presentation_id
            contest(person, found.tried.enrolment.course.key, question, ContestIn(text=WHY))
