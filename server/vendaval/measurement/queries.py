"""Reading observations for calibration."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from itertools import groupby

from django.db.models import F

from vendaval.bank.fresh import fresh_since
from vendaval.bank.models import Course
from vendaval.levels.models import Observation
from vendaval.levels.rebuild import FIELDS, latest
from vendaval_core.measure.calibration.course import LogAnswer

AT_ONCE = 2000


def log_answers(course: Course) -> dict[int, list[list[LogAnswer]]]:
    """Each learner's answers by topic id, in order, with the time between them. What was said to be
    not taught, was undone, waits for its marks or was given before what is asked changed is no
    evidence and keeps its time. Practice learners are left out."""
    counts_from = {family: one.number for family, one in fresh_since(course=course).items()}
    rows = (
        Observation.objects.filter(enrolment__course=course, enrolment__person__practice_for=None)
        .annotate(
            key=F("family__key"),
            seed=F("tried__presentation__seed"),
            revised=F("tried__presentation__revision__number"),
        )
        .order_by("enrolment_id", "pk")
        .only(*FIELDS, "topic_id")
    )
    found: dict[int, list[list[LogAnswer]]] = defaultdict(list)
    for _, own in groupby(rows.iterator(AT_ONCE), key=lambda row: row.enrolment_id):
        by_topic: dict[int, list[LogAnswer]] = defaultdict(list)
        for topic, answer in _answers(latest(list(own)), counts_from):
            by_topic[topic].append(answer)
        for topic, history in by_topic.items():
            found[topic].append(history)
    return found


def _answers(
    rows: list[Observation], counts_from: Mapping[int, int]
) -> Iterator[tuple[int, LogAnswer]]:
    """One learner's answers with their topics. days: since the last one in the same topic.
    counts_from: the first revision whose answers still count, of families that have one."""
    day, seen = 0.0, dict[int, float]()
    for row in rows:
        day += row.days
        since = day - seen.get(row.topic_id, day)
        seen[row.topic_id] = day
        given = vars(row)
        still = given["revised"] >= counts_from.get(row.family_id, 0)
        outcome = row.outcome if row.counts and still else None
        teaches = row.learning and row.counts and row.weight > 0
        weight = 0.0 if outcome is None else row.weight
        yield (
            row.topic_id,
            LogAnswer(given["key"], given["seed"], outcome, weight, since, teaches, float(row.pk)),
        )
