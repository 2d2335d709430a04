"""Everybody's attempts at a test of a group, with the points of each question: a fixed number of
queries, however many there are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from django.db.models import Max

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import members_of
from vendaval.work.models import Try, TryKind
from vendaval_core.assessment.rules import ScoreKept

from ..attempts import with_bare_totals
from ..columns import PlacePoints
from ..models import AnswerSoFar, Assignment, Attempt
from ..points import points_by_number
from ..taking.queries import kept_of
from ..taking.state import settle_all


@dataclass(frozen=True, slots=True)
class Answered:
    """What is known of one answer. tried: the last try of it, if there is one."""

    seconds: float
    given: bool
    flagged: bool
    tried: int | None


@dataclass(frozen=True, slots=True)
class Gathered:
    """Everybody who has a test, by name. attempts: of each, in order, with their bare totals.
    shown: of each, the attempt to look at: the one that counts, else the last; whole. kept: of
    each, the attempt that counts, None for the mean of several, and the share, None while any
    waits for marks. points: of each shown attempt that is marked, by number of the question.
    answers: of each shown attempt likewise."""

    members: Sequence[Enrolment]
    attempts: Mapping[int, list[Attempt]]
    shown: Mapping[int, Attempt]
    kept: Mapping[int, tuple[Attempt | None, Fraction | None]]
    points: Mapping[int, Mapping[int, PlacePoints]]
    answers: Mapping[int, Mapping[int, Answered]]


def gathered(assignment: Assignment, others: Sequence[Assignment] = ()) -> Gathered:
    """Everybody in the group who has the test, and in the groups of others it was given to at once;
    practice learners' attempts are none."""
    rows = [assignment, *others]
    settle_all(Attempt.objects.filter(assignment__in=rows, marked=False))
    by_id = {one.pk: one for row in rows for one in _having(row)}
    people = sorted(by_id.values(), key=lambda one: (one.person.display_name, one.pk))
    attempts: dict[int, list[Attempt]] = {}
    mine = Attempt.objects.filter(assignment__in=rows, enrolment__in=by_id)
    for attempt in with_bare_totals(mine.order_by("number")):
        attempts.setdefault(attempt.enrolment_id, []).append(attempt)
    rule = assignment.test.rules.core().score_kept
    kept = {learner: kept_attempt(own, rule) for learner, own in attempts.items()}
    ids = [(kept[learner][0] or own[-1]).pk for learner, own in attempts.items()]
    shown = {}
    for attempt in Attempt.objects.filter(pk__in=ids).select_related("test", "run"):
        attempt.enrolment = by_id[attempt.enrolment_id]
        shown[attempt.enrolment_id] = attempt
    whole = list(shown.values())
    return Gathered(people, attempts, shown, kept, points_by_number(whole), _answers(whole))


def _having(assignment: Assignment) -> list[Enrolment]:
    members = members_of(assignment.group).filter(person__practice_for=None)
    if not assignment.whole_group:
        members = members.filter(pk__in=assignment.learners.all())
    return list(members.defer("state__state", "state__families"))


def kept_attempt(
    attempts: Sequence[Attempt], rule: ScoreKept
) -> tuple[Attempt | None, Fraction | None]:
    """The attempt whose score counts, None for the mean of several; and the share, None while any
    of them waits for marks."""
    marked = [one for one in attempts if one.total is not None]
    kept = kept_of(marked, rule)
    if kept is None:
        return None, None
    return (None if kept.attempt is None else marked[kept.attempt - 1]), kept.share


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
        found.setdefault(row.attempt_id, {})[row.number] = Answered(
            row.seconds, given, row.data.flagged, tried
        )
    return found
