"""Points of attempts, made from the marks of their questions."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from fractions import Fraction

from vendaval.bank.snapshot import course_bank
from vendaval.shared.changes import Stale, claimed
from vendaval.work.models import MarkRule
from vendaval.work.questions import OpenQuestion, logs_of, opened, with_revisions
from vendaval_core.assessment.points import (
    Adjusted,
    QuestionPoints,
    late_off,
    question_points,
    total_of,
    wrong_choices,
)

from .columns import PlaceData, PlacePoints, TotalData
from .models import AnswerSoFar, Attempt, Regrade, RegradeState

Adjustments = Mapping[str, Adjusted]
ADJUSTED = {"full": Adjusted.FULL, "drop": Adjusted.DROPPED}
IN_FORCE = (RegradeState.APPLYING, RegradeState.APPLIED)


def regrades_in_force(assignment_id: int | None) -> list[Regrade]:
    """Regrades of a test that hold for everybody who takes it, in their order."""
    if assignment_id is None:
        return []
    rows = Regrade.objects.filter(assignment=assignment_id, state__in=IN_FORCE)
    return list(rows.order_by("pk"))


def adjusted_by(regrades: Sequence[Regrade]) -> Adjustments:
    """Questions that regrades drop, or give everybody full marks for, by family."""
    return {row.family: ADJUSTED[row.way.kind] for row in regrades if row.way.kind in ADJUSTED}


def adjustments(assignment_id: int | None) -> Adjustments:
    """The same for a test as it stands."""
    return adjusted_by(regrades_in_force(assignment_id))


def points_at(
    attempt: Attempt,
    place: PlaceData,
    question: OpenQuestion,
    answer: AnswerSoFar,
    adjusted: Adjustments,
) -> QuestionPoints:
    """Points of one question of an attempt, by the marks that count. A page of paper waits until a
    person has marked it."""
    rules = attempt.rules.core()
    by_hand = any(
        mark.rule == MarkRule.PERSON for marks in question.marks.values() for mark in marks.values()
    )
    wrong = Fraction(0)
    if rules.off_wrong and question.tries:
        wrong = wrong_choices(question.version, question.tries[-1].response)
    return question_points(
        place.points,
        place.section,
        question.state,
        rules,
        wrong,
        adjusted.get(place.family),
        on_paper=answer.data.on_paper and not by_hand,
    )


@dataclass(frozen=True, slots=True)
class Placed:
    """A place of an attempt with its answer and its question as it stands."""

    place: PlaceData
    answer: AnswerSoFar
    question: OpenQuestion


def opened_places(
    attempts: Sequence[Attempt], family: str | None = None
) -> dict[int, list[Placed]]:
    """By attempt its places in order, all loaded together: as many queries for many attempts as
    for one. A question that was taken out of the course is not among them. family: only where that
    is asked."""
    by_id = {one.pk: one for one in attempts}
    rows = AnswerSoFar.objects.filter(attempt__in=by_id).select_related("presentation")
    if family is not None:
        rows = rows.filter(presentation__revision__family__key=family)
    answers = list(rows.order_by("attempt", "number"))
    with_revisions(answer.presentation for answer in answers)
    for answer in answers:
        answer.attempt = by_id[answer.attempt_id]
        answer.presentation.run = answer.attempt.run
        answer.attempt.run.enrolment = answer.attempt.enrolment
        answer.attempt.run.attempt = answer.attempt
    logs = logs_of([answer.presentation for answer in answers])
    found: dict[int, list[Placed]] = {one.pk: [] for one in attempts}
    for answer in answers:
        place = answer.attempt.places[answer.number - 1]
        if course_bank(answer.attempt.enrolment.course).known(place.family) is not None:
            shown = answer.presentation
            found[answer.attempt_id].append(Placed(place, answer, opened(shown, logs[shown.pk])))
    return found


def total_by(attempt: Attempt, places: Sequence[Placed], adjusted: Adjustments) -> TotalData:
    """Points of an attempt by the marks of its questions."""
    points = {
        one.answer.number: points_at(attempt, one.place, one.question, one.answer, adjusted)
        for one in places
    }
    assert attempt.handed_in_at is not None
    lateness = late_off(attempt.rules.core(), attempt.due, attempt.handed_in_at)
    return TotalData.of_core(total_of(list(points.values()), lateness), points)


def points_by_number(attempts: Sequence[Attempt]) -> dict[int, Mapping[int, PlacePoints]]:
    """By attempt that is marked, points by number of the question: as they were kept with the
    total, which is made anew with every mark that counts; worked out for what was marked before
    they were kept. Attempts are of one assignment."""
    found = {one.pk: one.total.places for one in attempts if one.total is not None}
    old = [one for one in attempts if one.total is not None and not one.total.places]
    if old:
        adjusted, places = adjustments(old[0].assignment_id), opened_places(old)
        found |= {one.pk: total_by(one, places[one.pk], adjusted).places for one in old}
    return dict(found)


def recount_points(attempt: Attempt, now: datetime | None) -> None:
    """Make the points of an attempt again from its marks. now: where they are released with it."""
    places = opened_places([attempt])[attempt.pk]
    attempt.total = total_by(attempt, places, adjustments(attempt.assignment_id))
    attempt.released_at = now or attempt.released_at
    if not claimed(attempt, ("total", "released_at")):
        raise Stale
