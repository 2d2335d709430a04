"""Attempts as several rooms read them: those handed in, their answers, why one is paused."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from django.db.models import QuerySet
from django.db.models.fields.json import KeyTextTransform

from vendaval.work.questions import with_revisions

from .columns import TotalData
from .models import AnswerSoFar, Assignment, Attempt, Intervention, InterventionKind


def handed_in_attempts(assignment: Assignment, *, with_answer: int | None = None) -> list[Attempt]:
    """Attempts at a test of learners in its group now that are handed in and settled; practice
    learners' are none. with_answer: only the one that has this answer."""
    rows = Attempt.objects.filter(
        assignment=assignment,
        marked=True,
        enrolment__until=None,
        enrolment__groups__group=assignment.group_id,
        enrolment__groups__until=None,
        enrolment__person__practice_for=None,
    ).select_related("enrolment__person", "enrolment__course", "test", "run")
    if with_answer is not None:
        rows = rows.filter(answers=with_answer)
    return list(rows.order_by("enrolment__person__display_name", "number").distinct())


TOTAL = ("reached", "marked", "of", "waiting", "late_off")


def with_bare_totals(rows: QuerySet[Attempt]) -> list[Attempt]:
    """Attempts for a look over many of them: their totals without the points of each question, and
    nothing of their places or how they stand is read until it is asked for."""
    parts = {f"total_{name}": KeyTextTransform(name, "total") for name in TOTAL}
    found = list(rows.defer("total", "places", "standing", "levels", "paper").annotate(**parts))
    for one in found:
        values = {name: getattr(one, f"total_{name}") for name in TOTAL}
        one.total = None if values["of"] is None else _bare(values)
    return found


def _bare(values: dict[str, Any]) -> TotalData:
    exact: dict[str, Any] = {name: Fraction(values[name]) for name in TOTAL if name != "waiting"}
    return TotalData.model_construct(**exact, waiting=int(values["waiting"]), places={})


def minutes_inside(attempt: Attempt) -> float:
    """Minutes that its learner was in an attempt."""
    spans = ((one.left or one.seen) - one.entered for one in attempt.standing.intervals)
    return sum(span.total_seconds() for span in spans) / 60


def pause_reason(attempt: Attempt) -> str:
    """Why an attempt is paused, as its learner reads it."""
    rows = Intervention.objects.filter(attempt=attempt, kind=InterventionKind.PAUSED)
    found = rows.order_by("-pk").values_list("why", flat=True).first()
    return found or ""


def answers_of(attempt: Attempt) -> list[AnswerSoFar]:
    """The places of an attempt in order, their questions loaded with it."""
    rows = AnswerSoFar.objects.filter(attempt=attempt).select_related("presentation")
    found = list(rows.order_by("number"))
    with_revisions(row.presentation for row in found)
    for row in found:
        row.attempt = attempt
        row.presentation.run = attempt.run
    return found
