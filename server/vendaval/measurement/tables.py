"""Calibrating a course from a table of answers that was given elsewhere."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.levels.settings import CHANGE
from vendaval_core.errors import TableInvalid
from vendaval_core.measure.calibration.course import propose
from vendaval_core.measure.calibration.observed import ObservedPoint
from vendaval_core.measure.calibration.table import MOST_SCORE, ResponseTable, read_table
from vendaval_core.measure.calibration.tabled import histories, observed_in, table_faults

from .actions import keep_calibration, proposal_data
from .models import Calibration


def table_of(course: Course, text: str) -> ResponseTable:
    """Read a table of a course's questions; TableInvalid with everything that is wrong."""
    table = read_table(text, most_score=MOST_SCORE)
    curves = {key: one.curve for key, one in course_bank(course).families.items()}
    faults = table_faults(table, curves)
    if faults:
        raise TableInvalid(faults)
    return table


def propose_from_table(
    course: Course, by: str, text: str, name: str, progress: Callable[[str], None]
) -> Calibration:
    """Calibrate the topics that a table has questions of, and keep the result as a proposal."""
    bank, table = course_bank(course), table_of(course, text)
    topics = {key: bank.topics[one.topic].key for key, one in bank.families.items()}
    answers, begins = histories(table, topics), (course.prior.mean, course.prior.sd)
    proposals: list[dict[str, Any]] = []
    for topic in bank.topics:
        progress(topic.title)
        present = {
            item.family.key: item.curve
            for item in bank.of_topic(topic.number)
            if item.family.key in table.items
        }
        if not present:
            continue
        # Rows are in no order of time.
        found = [
            replace(one, drifted=False, drift=None)
            for one in propose(present, answers[topic.key], begins, CHANGE)
        ]
        curves = {one.family: one.proposed or one.present for one in found}
        seen = observed_in(table, curves, begins)
        proposals += [
            proposal_data(one) | {"topic": topic.key, "observed": _points(seen[one.family])}
            for one in found
        ]
    return keep_calibration(course, proposals, by, name)


def _points(found: list[ObservedPoint]) -> list[list[float]]:
    return [[round(one.ability, 4), round(one.share, 4), one.answers] for one in found]
