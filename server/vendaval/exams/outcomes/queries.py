"""Results of a test for whoever teaches the group: everybody, question by question."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.batches import given_together
from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.assessment.attempt import seconds_left
from vendaval_core.assessment.points import Adjusted, band_of
from vendaval_core.assessment.rules import Rules
from vendaval_core.measure.analysis.questions import ENOUGH
from vendaval_core.measure.analysis.spread import Spread, spread_of
from vendaval_core.words import are, counted

from ..attempts import minutes_inside
from ..columns import PlacePoints
from ..models import Assignment, Attempt
from .gathering import Answered, Gathered, gathered
from .schemas import (
    AttemptBriefOut,
    CellResult,
    OutcomeCellOut,
    OutcomeColumnOut,
    OutcomesOut,
    SatOut,
    SatState,
    SpreadOut,
)


def outcomes(assignment: Assignment, person: User, *, together: bool = False) -> OutcomesOut:
    """Everybody of a group at a test; together, of all groups of this tutor it was given to."""
    others = given_together(assignment, person)
    now, all_ = clock.now(), gathered(assignment, others if together else ())
    bank = course_bank(assignment.group.course)
    rules = assignment.test.rules.core()
    columns = columns_of(all_, bank)
    places = {column.family: place for place, column in enumerate(columns)}
    learners = [_sat(one, all_, rules, places, now) for one in all_.members]
    pass_mark = None if rules.pass_mark is None else float(rules.pass_mark)
    known = [one.per_cent for one in learners if one.per_cent is not None]
    spread = spread_of(known, pass_mark)
    return OutcomesOut(
        group=", ".join(one.group.title for one in (assignment, *(others if together else ()))),
        together=together and bool(others),
        shared=[one.group.title for one in others],
        test=assignment.test.title,
        headline=_headline(learners, spread),
        scale=rules.scale,
        pass_mark=pass_mark,
        columns=columns,
        learners=learners,
        spread=None if spread is None else _spread_out(spread),
        can_analyse=sum(one.per_cent is not None for one in learners) >= ENOUGH,
        server_now=now,
    )


def _spread_out(spread: Spread) -> SpreadOut:
    return SpreadOut(
        count=spread.count,
        mean=round(spread.mean, 1),
        median=round(spread.median, 1),
        sd=round(spread.sd, 1),
        tenths=list(spread.tenths),
        passed=spread.passed,
    )


def _headline(learners: Sequence[SatOut], spread: Spread | None) -> str:
    working = sum(one.state == "under_way" for one in learners)
    if working:
        return gettext("{who} sitting it now.").format(
            who=counted(working, "learner is", "learners are").capitalize()
        )
    if spread is None:
        return gettext("No results yet.")
    middle = gettext("The middle result is {median} per cent").format(median=round(spread.median))
    if spread.passed is None:
        return f"{middle}."
    below = spread.count - spread.passed
    return gettext("{middle}, {below} below the pass mark.").format(middle=middle, below=are(below))


def columns_of(all_: Gathered, bank: CourseBank) -> list[OutcomeColumnOut]:
    """The questions that anybody had, each where it stood first."""
    first: dict[str, tuple[int, Fraction]] = {}
    for attempt in all_.shown.values():
        for number, place in enumerate(attempt.places, 1):
            if place.family not in first or number < first[place.family][0]:
                first[place.family] = (number, place.points)
    found = []
    for family, (_, points) in sorted(first.items(), key=lambda one: (one[1][0], one[0])):
        item = bank.known(family)
        if item is not None:
            title, topic = item.title, bank.topics[item.topic].title
            found.append(
                OutcomeColumnOut(family=family, title=title, topic=topic, of=float(points))
            )
    return found


def _sat(
    enrolment: Enrolment, all_: Gathered, rules: Rules, places: dict[str, int], now: datetime
) -> SatOut:
    attempts = all_.attempts.get(enrolment.pk, [])
    kept, share = all_.kept.get(enrolment.pk, (None, None))
    shown = all_.shown.get(enrolment.pk)
    answers = {} if shown is None else all_.answers.get(shown.pk, {})
    total = None if shown is None or shown.total is None else shown.total.core()
    per_cent = None if share is None else 100 * share
    left = None
    if shown is not None and shown.handed_in_at is None:
        left = seconds_left(shown.core(), now)
    return SatOut(
        learner=enrolment.pk,
        name=enrolment.person.display_name,
        state=_state(attempts, shown),
        attempts=[_brief(one, one is kept) for one in attempts],
        attempt=None if shown is None else shown.pk,
        points=None if total is None else round(float(total.reached), 2),
        out_of=None if total is None else float(total.of),
        per_cent=None if per_cent is None else round(float(per_cent), 2),
        scaled=None if share is None else round(float(share * rules.scale), 2),
        band="" if per_cent is None else band_of(rules.bands, per_cent),
        minutes=None if shown is None else round(minutes_inside(shown)),
        late=total is not None and total.late_off > 0,
        answered=sum(one.given for one in answers.values()),
        of=0 if shown is None else len(shown.places),
        until=None if left is None else now + timedelta(seconds=left),
        cells=_cells(shown, all_, places),
    )


def _state(attempts: Sequence[Attempt], shown: Attempt | None) -> SatState:
    if shown is None:
        return "not_begun"
    if any(one.handed_in_at is None for one in attempts):
        return "under_way"
    if shown.total is None:
        return "handed_in"
    if shown.total.waiting:
        return "waiting"
    return "held" if shown.released_at is None else "told"


def _brief(attempt: Attempt, kept: bool) -> AttemptBriefOut:
    total = None if attempt.total is None else attempt.total.core()
    known = total is not None and total.complete
    return AttemptBriefOut(
        id=attempt.pk,
        number=attempt.number,
        per_cent=round(float(total.per_cent), 2) if known and total is not None else None,
        handed_in=attempt.handed_in_at,
        kept=kept,
    )


def _cells(
    attempt: Attempt | None, all_: Gathered, places: dict[str, int]
) -> list[OutcomeCellOut | None]:
    found: list[OutcomeCellOut | None] = [None] * len(places)
    if attempt is None or attempt.pk not in all_.points:
        return found
    points, own = all_.points[attempt.pk], all_.answers.get(attempt.pk, {})
    for number, place in enumerate(attempt.places, 1):
        if place.family in places and number in points and number in own:
            found[places[place.family]] = _cell(number, points[number], own[number])
    return found


def _cell(number: int, points: PlacePoints, answer: Answered) -> OutcomeCellOut:
    return OutcomeCellOut(
        number=number,
        result=result_of(points, answer),
        points=None if points.reached is None else round(float(points.reached), 2),
        share=None if points.share is None else round(float(points.share), 4),
        seconds=round(answer.seconds),
        tried=answer.tried,
    )


def result_of(points: PlacePoints, answer: Answered) -> CellResult:
    """What became of an answer, for those who mark it."""
    if points.adjusted is Adjusted.DROPPED:
        return "dropped"
    if not answer.given:
        return "empty"
    if points.share is None:
        return "waiting"
    if points.share == 1:
        return "right"
    return "partly" if points.share > 0 else "wrong"
