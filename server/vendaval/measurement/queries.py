"""Reading observations for calibration."""

from __future__ import annotations

from collections import defaultdict

from vendaval.bank.models import Course
from vendaval.levels.models import Observation
from vendaval_core.measure.calibration.course import LogResponse


def log_responses(course: Course) -> dict[int, list[LogResponse]]:
    """Weight-1 observations of a course by topic id, oldest first: those in force, with an outcome.
    What was said to be not taught is left out, since it has another likelihood, and so are practice
    learners."""
    rows = (
        Observation.objects.in_force()
        .filter(enrolment__course=course, weight=1.0, enrolment__person__practice_for=None)
        .exclude(outcome=None)
        .order_by("pk")
        .values_list(
            "topic_id",
            "enrolment_id",
            "sitting",
            "family__key",
            "tried__presentation__seed",
            "outcome",
            "pk",
        )
    )
    found: dict[int, list[LogResponse]] = defaultdict(list)
    for topic, enrolment, sitting, family, seed, outcome, number in rows.iterator():
        unit = f"{enrolment}:{sitting}"
        found[topic].append(LogResponse(unit, family, seed, outcome or 0, float(number)))
    return found
