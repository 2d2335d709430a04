"""Reading the log for calibration."""

from __future__ import annotations

from collections import defaultdict

from vendaval.bank.models import Course
from vendaval.evidence.models import Try, TryKind
from vendaval_core.measure.calibration.course import LogResponse


def log_responses(course: Course) -> dict[int, list[LogResponse]]:
    """Weight-1 first tries of a course by topic id, oldest first. What was said to be not taught
    is left out: it has another likelihood."""
    rows = (
        Try.objects.filter(
            presentation__run__course=course, first=True, weight=1.0, kind=TryKind.ANSWER
        )
        .order_by("pk")
        .values_list(
            "topic_id",
            "learner_id",
            "sitting",
            "family__key",
            "presentation__seed",
            "outcome",
            "pk",
        )
    )
    found: dict[int, list[LogResponse]] = defaultdict(list)
    for topic, learner, sitting, family, seed, outcome, number in rows.iterator():
        unit = f"{learner}:{sitting}"
        found[topic].append(LogResponse(unit, family, seed, outcome or 0, float(number)))
    return found
