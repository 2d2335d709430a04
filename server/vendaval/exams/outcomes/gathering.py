"""Everybody's attempts at a test of a group, with the points of each question: a fixed number of
queries, however many there are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from django.db.models import Max

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import members_of
from vendaval.work.models import Try, TryKind

from ..columns import PlacePoints
from ..models import AnswerSoFar, Assignment, Attempt
from ..points import points_by_number
from ..taking.state import settle_all


@dataclass(frozen=True, slots=True)
class Answered:
    """What is known of one answer. tried: the last try of it, if there is one."""

    seconds: float
    given: bool
    tried: int | None


@dataclass(frozen=True, slots=True)
class Gathered:
    """members: who has the test, by name. attempts: of each, in order. points: of each marked
    attempt, by number of the question. answers: of each attempt likewise."""

    members: Sequence[Enrolment]
    attempts: Mapping[int, list[Attempt]]
    points: Mapping[int, Mapping[int, PlacePoints]]
    answers: Mapping[int, Mapping[int, Answered]]


def gathered(assignment: Assignment) -> Gathered:
    """Everybody in the group who has the test; practice learners' attempts are none."""
    settle_all(Attempt.objects.filter(assignment=assignment, marked=False))
    members = members_of(assignment.group).filter(person__practice_for=None)
    if not assignment.whole_group:
        members = members.filter(pk__in=assignment.learners.all())
    people = list(members.defer("state__state", "state__families"))
    by_id = {one.pk: one for one in people}
    rows = Attempt.objects.filter(assignment=assignment, enrolment__in=by_id).order_by("number")
    attempts: dict[int, list[Attempt]] = {}
    for attempt in rows.select_related("test", "run"):
        attempt.enrolment = by_id[attempt.enrolment_id]
        attempts.setdefault(attempt.enrolment_id, []).append(attempt)
    every = [one for own in attempts.values() for one in own]
    return Gathered(people, attempts, points_by_number(every), _answers(every))


def _answers(attempts: Sequence[Attempt]) -> dict[int, dict[int, Answered]]:
    ids = [one.pk for one in attempts]
    rows = AnswerSoFar.objects.filter(attempt__in=ids).only(
        "attempt", "number", "presentation", "data", "seconds"
    )
    tries = dict(
        Try.objects.standing()
        .filter(presentation__so_far__attempt__in=ids, kind=TryKind.ANSWER)
        .values_list("presentation")
        .annotate(Max("pk"))
        .order_by()
    )
    found: dict[int, dict[int, Answered]] = {}
    for row in rows:
        tried = tries.get(row.presentation_id)
        given = tried is not None or row.data.answered or row.data.on_paper
        found.setdefault(row.attempt_id, {})[row.number] = Answered(row.seconds, given, tried)
    return found
