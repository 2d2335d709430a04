"""An attempt that is over: points, and each question, as far as the rules let them be told."""

from __future__ import annotations

from datetime import datetime
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.bank.snapshot import course_bank
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.models import Try, TryKind, Visibility
from vendaval.work.questions import OpenQuestion, opened, typical_seconds, waits_elsewhere
from vendaval.work.replies import last_answers, shown_question, working_area
from vendaval_core.assessment.comparison import compared
from vendaval_core.assessment.points import Adjusted, QuestionPoints, shown
from vendaval_core.assessment.release import Released
from vendaval_core.assessment.wording import TOLD

from ..assigning.assigned import AssignedTest, mirror_of_test
from ..attempts import answers_of, minutes_inside
from ..columns import PlaceData
from ..composing.schemas import LineOut
from ..marking.queries import marks_of_person
from ..models import AnswerSoFar, Attempt
from ..paper.pages import pages_of
from ..points import Adjustments, adjustments, points_at
from ..taking.handing_in import release_results
from ..taking.payload import sections_out, version_at
from ..taking.queries import attempt_line, counts, kept_share, ref_of_attempt, told_of
from .by_topic import study_after, topics_of
from .schemas import (
    GroupStripOut,
    LevelStepOut,
    Result,
    ResultLineOut,
    ResultQuestionOut,
    ResultsOut,
    ResultTryOut,
)

USUAL_SECONDS = 60.0
COMPARED = ("enrolment_id", "total", "assignment_id")


def results(attempt: Attempt) -> ResultsOut:
    """The whole of an attempt that is over."""
    now = clock.now()
    _refuse_under_way(attempt)
    release_results(attempt, now)
    given, told = told_of(attempt)
    adjusted = adjustments(attempt.assignment_id)
    lines = [
        line_of(attempt, place, answer, told, adjusted)
        for place, answer in zip(attempt.places, answers_of(attempt), strict=True)
    ]
    mirror = None if attempt.assignment_id is None else mirror_of_test(attempt.test)
    if mirror is not None and given.mirror_waits(now) is not None:
        mirror = None
    return ResultsOut(
        attempt=attempt_line(attempt, given, now),
        ref=ref_of_attempt(attempt),
        test=attempt.test.title,
        due=attempt.due,
        minutes=round(minutes_inside(attempt)),
        sections=sections_out(attempt),
        lines=lines,
        told_when=_told_when(attempt, told),
        answered=sum(line.result != "empty" for line in lines),
        group=_comparison(attempt, given, now),
        levels=_levels(attempt) if told.correctness else [],
        topics=topics_of(attempt, lines, told),
        study=study_after(attempt, lines) if told.correctness else [],
        mirror_ref=None if mirror is None else f"mirror-{mirror.pk}",
    )


def _comparison(attempt: Attempt, given: AssignedTest, now: datetime) -> GroupStripOut | None:
    """The kept results of the group, once the learner's own may be told."""
    own = kept_share(given.attempts, given.rules.score_kept)
    if attempt.assignment_id is None or own is None or counts(given, now) is None:
        return None
    rows: dict[int, list[Attempt]] = {}
    others = Attempt.objects.filter(
        assignment=attempt.assignment_id, marked=True, enrolment__person__practice_for=None
    ).exclude(enrolment=attempt.enrolment_id)
    for one in others.order_by("number").only(*COMPARED):
        rows.setdefault(one.enrolment_id, []).append(one)
    shares = [kept_share(theirs, given.rules.score_kept) for theirs in rows.values()]
    found = compared(own, [share for share in shares if share is not None])
    if found is None:
        return None
    return GroupStripOut(per_cent=list(found.per_cent), own=found.own, middle=found.middle)


def _levels(attempt: Attempt) -> list[LevelStepOut]:
    """Levels before and after, of the topics in which both were known."""
    titles = {topic.key: topic.title for topic in course_bank(attempt.enrolment.course).topics}
    return [
        LevelStepOut(
            topic=PlaceOut(key=step.topic, title=titles[step.topic]),
            before=step.before,
            after=step.after,
        )
        for step in attempt.levels
        if step.topic in titles and step.before.level is not None and step.after.level is not None
    ]


def _refuse_under_way(attempt: Attempt) -> None:
    if attempt.handed_in_at is None:
        raise Conflict(gettext("This attempt isn’t finished yet."), code="under_way")


def _told_when(attempt: Attempt, told: Released) -> list[LineOut]:
    """What is not told yet, and when it will be."""
    release = attempt.rules.release
    known = (
        ("Points", told.score, release.score),
        (gettext("Right and wrong"), told.correctness, release.correctness),
        (gettext("Right answers"), told.answers, release.answers),
        (gettext("Worked solutions"), told.solutions, release.solutions),
    )
    return [
        LineOut(about=about, says=f"{gettext(TOLD[when])}.")
        for about, is_told, when in known
        if not is_told
    ]


def line_of(
    attempt: Attempt, place: PlaceData, answer: AnswerSoFar, told: Released, adjusted: Adjustments
) -> ResultLineOut:
    """A question of an attempt in the list of its results."""
    row = answer.presentation
    bank = course_bank(attempt.enrolment.course)
    topic, item = row.revision.family.topic, bank.known(place.family)
    guess = item.family.seconds if item is not None else USUAL_SECONDS
    points = None
    if item is not None and told.correctness and attempt.marked:
        points = points_at(attempt, place, opened(row), answer, adjusted)
    return ResultLineOut(
        number=answer.number,
        section=place.section,
        title=version_at(answer).title,
        topic=None if attempt.test.rehearsal else PlaceOut(key=topic.key, title=topic.title),
        of=shown(place.points),
        points=shown(points.reached)
        if told.score and points and points.reached is not None
        else None,
        result=_result(attempt, answer, points),
        sum=sum_of(points) if told.score and points is not None else None,
        seconds=round(answer.seconds),
        needed=round(typical_seconds(row.revision.family, guess)),
        flagged=answer.data.flagged,
        note=answer.data.note,
    )


def _result(attempt: Attempt, answer: AnswerSoFar, points: QuestionPoints | None) -> Result:
    if points is not None and points.adjusted is Adjusted.DROPPED:
        return "dropped"
    if not answer.presentation.tried and not answer.data.answered and not answer.data.on_paper:
        return "empty"
    if points is None:
        return "not_told"
    if points.share is None:
        return "by_hand" if attempt.test.rehearsal else "waiting"
    if points.share == 1:
        return "right"
    return "partly" if points.share > 0 else "wrong"


def sum_of(points: QuestionPoints) -> str | None:
    """How the points of a question came about, as a sum."""
    if points.adjusted is not None:
        return (
            gettext("full marks for all")
            if points.adjusted is Adjusted.FULL
            else gettext("dropped for all")
        )
    if points.share is None or points.reached is None:
        return None
    if points.empty:
        return gettext("not answered")
    if not points.off and points.share in {0, 1}:
        return None
    found = gettext("{share}% of {of}").format(share=shown(points.share * 100), of=shown(points.of))
    if points.off:
        found += gettext(", minus {off} for wrong choices").format(off=shown(points.off))
    return f"{found}: {shown(points.reached)}"


def result_question(attempt: Attempt, number: int) -> ResultQuestionOut:
    """One question of an attempt that is over: as it was, and beside it what may be told."""
    _refuse_under_way(attempt)
    release_results(attempt, clock.now())
    answer = next((one for one in answers_of(attempt) if one.number == number), None)
    if answer is None:
        raise NotFound(gettext("This attempt doesn’t have that question."))
    row = answer.presentation
    _, told = told_of(attempt)
    question = opened(row)
    working = working_area(question.tries)
    held = row.visibility != Visibility.ALL
    return ResultQuestionOut(
        line=line_of(
            attempt,
            attempt.places[number - 1],
            answer,
            told,
            adjustments(attempt.assignment_id),
        ),
        question=shown_question(
            row,
            question.version,
            question.state,
            last_answers(question.tries, question.marks),
            in_review=True,
            open_elsewhere=not held and waits_elsewhere(attempt.enrolment, row),
        ),
        working=working,
        tries=[_try(row, question, told) for row in question.tries if row.kind == TryKind.ANSWER],
        pages=[page.pk for page in pages_of(attempt) if number in page.questions],
        can_contest=told.correctness and bool(question.tries) and not attempt.test.rehearsal,
        by_person=marks_of_person(attempt, answer) if told.correctness else [],
    )


def _try(row: Try, question: OpenQuestion, told: Released) -> ResultTryOut:
    """A try in words, with the share it earned once that may be told."""
    said = [key.answer_words(row.response.get(key.id, "")) for key in question.version.parts]
    shares = [
        Fraction(mark.share) for mark in question.marks.get(row.pk, {}).values() if mark.share
    ]
    known = told.correctness and len(shares) == len(question.version.parts)
    return ResultTryOut(
        number=row.number,
        at=row.at,
        given="; ".join(words for words in said if words),
        share=f"{shown(100 * sum(shares, Fraction(0)) / len(shares))}%" if known else None,
    )
