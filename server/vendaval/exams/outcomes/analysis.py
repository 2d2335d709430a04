"""What a test says about itself: its reliability, and each question beside the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.delivery.answer_words import given_words
from vendaval.shared.errors import NotFound
from vendaval.work.questions import with_revisions
from vendaval_core.assessment.attempt import HandedInBy
from vendaval_core.measure.analysis.expected import Expected, agreement
from vendaval_core.measure.analysis.numbers import Versions, due_to_numbers
from vendaval_core.measure.analysis.questions import (
    ENOUGH,
    answers_by_thirds,
    by_thirds,
    question_figures,
)
from vendaval_core.measure.analysis.reliability import Reliability, reliability
from vendaval_core.measure.analysis.spread import spread_of
from vendaval_core.measure.analysis.words import (
    Seen,
    near_pass_words,
    question_words,
    reliability_words,
    test_headline,
)
from vendaval_core.words import counted

from ..attempts import minutes_inside
from ..columns import PlacePoints
from ..models import AnswerSoFar, Assignment, Attempt, Test
from ..taking.payload import version_at
from .beside_levels import expected_of
from .gathering import Answered, Gathered, gathered
from .queries import columns_of
from .schemas import (
    AnalysisOut,
    AnswerThirdsOut,
    FiguresOut,
    OutcomeColumnOut,
    QuestionSeenOut,
    StandOutOut,
)

MOST_ANSWERS = 6
FEWEST_ALIKE = 3
MOST_GROUPS = 30


@dataclass(frozen=True, slots=True)
class _Sat:
    """An attempt that counts, with its points and answers by number of the question."""

    attempt: Attempt
    points: dict[int, PlacePoints]
    answers: dict[int, Answered]
    numbers: dict[str, int]

    @property
    def share(self) -> float:
        assert self.attempt.total is not None
        return float(self.attempt.total.core().share)


@dataclass(frozen=True, slots=True)
class _Whole:
    """Reliability of the questions that everybody had, and their points in all."""

    found: Reliability
    of: float


def analysis_of_test(test: Test, course: Course) -> AnalysisOut:
    """The same over every group that has a test, without names, for those who compose tests."""
    rows = Assignment.objects.filter(test=test).select_related("test", "group__course")
    given = list(rows.order_by("pk")[:MOST_GROUPS])
    if not given:
        raise NotFound(gettext("This test wasn’t set for any group yet."))
    found = analysis(given[0], given[1:])
    found.group = course.title
    if found.figures is not None:
        found.figures.standouts = []
    return found


def analysis(assignment: Assignment, others: Sequence[Assignment] = ()) -> AnalysisOut:
    """A test held against itself; only how many took it while these are too few. others: the same
    test in other groups."""
    all_, bank = gathered(assignment, others), course_bank(assignment.group.course)
    sat = _counting(all_)
    if len(sat) < ENOUGH:
        return AnalysisOut(
            group=assignment.group.title,
            test=assignment.test.title,
            headline=gettext("Too few to tell: {needed} are needed.").format(
                needed=counted(ENOUGH, "attempt")
            ),
            attempts=len(sat),
            figures=None,
            questions=[],
        )
    sat.sort(key=lambda one: one.share)
    columns = columns_of(all_, bank)
    seen = [(column, found) for column in columns if (found := _seen(column, sat, bank))]
    whole = _whole(columns, sat)
    doubtful = sum(one.key_doubtful for _, one in seen)
    said = sum(bool(question_words(one)) for _, one in seen)
    return AnalysisOut(
        group=assignment.group.title,
        test=assignment.test.title,
        headline=test_headline(doubtful, said - doubtful),
        attempts=len(sat),
        figures=_figures(assignment, sat, whole, bank),
        questions=[_out(column, one, sat) for column, one in seen],
    )


def _counting(all_: Gathered) -> list[_Sat]:
    """Attempts that count, of those whose marks are complete."""
    found = []
    for learner, attempt in all_.shown.items():
        _, share = all_.kept[learner]
        if share is None or attempt.pk not in all_.points:
            continue
        numbers = {place.family: number for number, place in enumerate(attempt.places, 1)}
        points, answers = all_.points[attempt.pk], all_.answers.get(attempt.pk, {})
        found.append(_Sat(attempt, dict(points), dict(answers), numbers))
    return found


def _share(one: _Sat, family: str) -> float | None:
    points = one.points.get(one.numbers.get(family, 0))
    return None if points is None or points.share is None else float(points.share)


def _seen(column: OutcomeColumnOut, sat: Sequence[_Sat], bank: CourseBank) -> Seen | None:
    """One question among those who had it, beside the rest of their test; None if too few did."""
    having = [(one, share) for one in sat if (share := _share(one, column.family)) is not None]
    if len(having) < ENOUGH:
        return None
    shares = np.array([share for _, share in having])
    rest = np.array([_rest(one, column.family) for one, _ in having])
    figures = question_figures(shares, rest, np.array([one.share for one, _ in having]))
    empty = [not one.answers[one.numbers[column.family]].given for one, _ in having]
    left = [_unreached(one, one.numbers[column.family]) for one, _ in having]
    return Seen(
        figures,
        _expected(column.family, [one for one, _ in having], bank),
        sum(empty),
        sum(left),
        len(having),
    )


def _rest(one: _Sat, family: str) -> float:
    """Share of the points of all other questions."""
    others = [p for n, p in one.points.items() if n != one.numbers[family]]
    of = float(sum(p.of for p in others))
    return float(sum(p.reached or 0 for p in others)) / of if of else 0.0


def _unreached(one: _Sat, number: int) -> bool:
    return not any(answer.given for n, answer in one.answers.items() if n >= number)


def _expected(family: str, having: Sequence[_Sat], bank: CourseBank) -> float | None:
    """Mean share of the points from the curve, at the levels these learners have."""
    item = bank.known(family)
    assert item is not None, "columns are of known ones"
    topic, scale = bank.topics[item.topic], bank.scales[item.topic]
    found = []
    for one in having:
        state = getattr(one.attempt.enrolment, "state", None)
        reading = None if state is None else state.standing.get(topic.key)
        if reading is not None:
            theta = scale.ability(min(99.0, max(1.0, reading.level)))
            found.append(float(item.curve.share(np.array([theta]))[0][0]))
    return float(np.mean(found)) if found else None


def _whole(columns: Sequence[OutcomeColumnOut], sat: Sequence[_Sat]) -> _Whole | None:
    """Reliability over the questions that everybody had; None if these are less than half."""
    common = [c for c in columns if all(_share(one, c.family) is not None for one in sat)]
    if 2 * len(common) < max(len(one.numbers) for one in sat):
        return None
    points = [[(_share(one, c.family) or 0.0) * c.of for c in common] for one in sat]
    found = reliability(np.array(points))
    return None if found is None else _Whole(found, sum(c.of for c in common))


def _figures(
    assignment: Assignment, sat: Sequence[_Sat], whole: _Whole | None, bank: CourseBank
) -> FiguresOut:
    rules = assignment.test.rules.core()
    pass_mark = None if rules.pass_mark is None else float(rules.pass_mark)
    spread = spread_of([100 * one.share for one in sat], pass_mark)
    assert spread is not None
    minutes = sorted(minutes_inside(one.attempt) for one in sat)
    ran_out = sum(one.attempt.standing.handed_in_by is HandedInBy.CLOCK for one in sat)
    near = ""
    if whole is not None and pass_mark is not None:
        mean, least = (share * whole.of / 100 for share in (spread.mean, pass_mark))
        near = near_pass_words(whole.found, mean, least, whole.of, rules.scale)
    found = None if whole is None else whole.found
    beside = [
        (one, expected)
        for one in sat
        if (expected := expected_of(one.attempt, one.points, bank)) is not None
    ]
    together = agreement([one.share for one, _ in beside], [each.share for _, each in beside])
    return FiguresOut(
        mean=round(spread.mean * rules.scale / 100, 1),
        median=round(spread.median * rules.scale / 100, 1),
        sd=round(spread.sd * rules.scale / 100, 1),
        scale=rules.scale,
        tenths=list(spread.tenths),
        passed=spread.passed,
        alpha=None if found is None else round(found.alpha, 2),
        alpha_low=None if found is None else round(found.low, 2),
        alpha_high=None if found is None else round(found.high, 2),
        error=None if whole is None else round(whole.found.error * rules.scale / whole.of, 1),
        says="" if found is None else reliability_words(found),
        near_pass=near,
        agreement=None if together is None else round(together, 2),
        standouts=[_stand_out(one, expected) for one, expected in beside if _far(one, expected)],
        numbers=_numbers(assignment, sat),
        minutes=round(minutes[len(minutes) // 2]),
        ran_out=ran_out,
    )


def _numbers(assignment: Assignment, sat: Sequence[_Sat]) -> float | None:
    """What the learners' own numbers make of the spread; None where all had the same."""
    if assignment.test.composition.same_versions:
        return None
    points: dict[str, list[float]] = {}
    seeds: dict[str, list[int]] = {}
    of: dict[str, float] = {}
    for one in sat:
        for number, place in enumerate(one.attempt.places, 1):
            own = one.points.get(number)
            if own is not None and own.reached is not None:
                points.setdefault(place.family, []).append(float(own.reached))
                seeds.setdefault(place.family, []).append(place.seed)
                of[place.family] = float(own.of)
    questions = [Versions(np.array(points[key]), np.array(seeds[key]), of[key]) for key in points]
    results = np.array([float(sum(p.reached or 0 for p in one.points.values())) for one in sat])
    found = due_to_numbers(questions, results)
    return None if found is None else round(found, 2)


def _far(one: _Sat, expected: Expected) -> bool:
    return expected.stands_out(one.share)


def _stand_out(one: _Sat, expected: Expected) -> StandOutOut:
    learner = one.attempt.enrolment
    return StandOutOut(
        learner=learner.pk,
        name=learner.person.display_name,
        per_cent=round(100 * one.share),
        expected=round(100 * expected.share),
    )


def _out(column: OutcomeColumnOut, seen: Seen, sat: Sequence[_Sat]) -> QuestionSeenOut:
    figures = seen.figures
    answers: list[AnswerThirdsOut] = []
    says = question_words(seen)
    if says:
        answers = _answers(column.family, [one for one in sat if column.family in one.numbers])
        strong = next((one for one in answers if one.upper > one.lower and one.upper > 1), None)
        if seen.key_doubtful and strong is not None:
            says = question_words(replace(seen, strong=strong.answer))
    low, middle, high = figures.thirds
    seconds = sorted(
        one.answers[one.numbers[column.family]].seconds
        for one in sat
        if one.numbers.get(column.family) in one.answers
    )
    return QuestionSeenOut(
        family=column.family,
        title=column.title,
        topic=column.topic,
        attempts=seen.attempts,
        share=round(figures.share, 3),
        low=round(max(0.0, figures.share - 1.96 * figures.error), 3),
        high=round(min(1.0, figures.share + 1.96 * figures.error), 3),
        expected=None if seen.expected is None else round(seen.expected, 3),
        rest=None if figures.rest is None else round(figures.rest, 2),
        thirds=[round(low, 3), round(middle, 3), round(high, 3)],
        empty=seen.empty,
        flagged=sum(
            one.answers[one.numbers[column.family]].flagged
            for one in sat
            if one.numbers.get(column.family) in one.answers
        ),
        unreached=seen.unreached,
        seconds=round(seconds[len(seconds) // 2]) if seconds else 0,
        doubtful=seen.key_doubtful,
        says=says,
        answers=answers,
    )


def _answers(family: str, sat: Sequence[_Sat]) -> list[AnswerThirdsOut]:
    """Wrong answers by thirds of the attempts, where several gave the same one."""
    ids = [one.attempt.pk for one in sat]
    rows = AnswerSoFar.objects.filter(
        attempt__in=ids, presentation__revision__family__key=family
    ).select_related("presentation")
    found = list(rows)
    with_revisions(row.presentation for row in found)
    said: dict[int, str] = {}
    for row in found:
        version = version_at(row)
        words = (given_words(key, row.data.responses.get(key.id, "")) for key in version.parts)
        said[row.attempt_id] = "; ".join(one for one in words if one)
    wrong = [
        said.get(one.attempt.pk, "") if (_share(one, family) or 0.0) < 1 else "" for one in sat
    ]
    thirds = by_thirds(np.arange(len(sat), dtype=float))
    return [
        AnswerThirdsOut(answer=answer, lower=low, middle=middle, upper=high)
        for answer, (low, middle, high) in answers_by_thirds(wrong, thirds).items()
        if answer and low + middle + high >= FEWEST_ALIKE
    ][:MOST_ANSWERS]
