"""Tests given to a group as its tutors see and change them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from fractions import Fraction

from vendaval.groups.models import Group
from vendaval.groups.queries import members_of
from vendaval.groups.withdrawing import withdrawn
from vendaval.shared import clock
from vendaval_core.assessment.points import kept_score, shown

from ..models import Assignment, Attempt
from .schemas import GroupTestOut, GroupTestsOut, StateCountsOut

# A learner who did nothing for an hour has left, whatever their browser says.
LEFT_AFTER = timedelta(hours=1)


def group_tests(group: Group) -> GroupTestsOut:
    """Every test of a group with where its learners stand, the newest first."""
    now = clock.now()
    given = Assignment.objects.filter(group=group).select_related("test")
    rows = list(given.prefetch_related("learners").order_by("-pk")[:60])
    learners = set(members_of(group).values_list("pk", flat=True))
    attempts: dict[int | None, list[Attempt]] = {}
    for attempt in (
        Attempt.objects.filter(assignment__in=rows, enrolment__in=learners)
        .order_by("number")
        .defer("places")
    ):
        attempts.setdefault(attempt.assignment_id, []).append(attempt)
    return GroupTestsOut(
        group=group.title,
        course=group.course.key,
        withdrawn=withdrawn(Assignment, group, "test__title"),
        tests=[_test_line(row, learners, attempts.get(row.pk, []), now) for row in rows],
    )


def _test_line(
    row: Assignment, learners: set[int], attempts: Sequence[Attempt], now: datetime
) -> GroupTestOut:
    composition = row.test.composition.core()
    if not row.whole_group:
        learners = learners & {one.pk for one in row.learners.all()}
    return GroupTestOut(
        id=row.pk,
        test=row.test_id,
        title=row.test.title,
        questions=composition.questions,
        points=shown(composition.points),
        learners=len(learners),
        whole_group=row.whole_group,
        opens=row.opens,
        due=row.due,
        closes=row.closes,
        states=_counts(learners, attempts, now),
        mean=_mean(row, attempts),
    )


def _counts(learners: set[int], attempts: Sequence[Attempt], now: datetime) -> StateCountsOut:
    latest = {attempt.enrolment_id: attempt for attempt in attempts}
    found = StateCountsOut(not_begun=0, under_way=0, left=0, waiting=0, marked=0)
    for learner in learners:
        attempt = latest.get(learner)
        if attempt is None:
            found.not_begun += 1
        elif attempt.handed_in_at is None:
            intervals = attempt.standing.intervals
            seen = intervals[-1].seen if intervals else attempt.confirmed_at
            if now - seen > LEFT_AFTER:
                found.left += 1
            else:
                found.under_way += 1
        elif attempt.total is None or attempt.total.waiting:
            found.waiting += 1
        else:
            found.marked += 1
    return found


def _mean(row: Assignment, attempts: Sequence[Attempt]) -> str | None:
    shares: dict[int, list[Fraction]] = {}
    for attempt in attempts:
        if attempt.total is not None and not attempt.total.waiting:
            shares.setdefault(attempt.enrolment_id, []).append(attempt.total.core().share)
    kept = [kept_score(row.test.rules.score_kept, own) for own in shares.values()]
    values = [one.share for one in kept if one is not None]
    return f"{shown(100 * sum(values, Fraction(0)) / len(values))}%" if values else None
