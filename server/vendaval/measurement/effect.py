"""What a calibration would do to learners' levels, found by making some learners' states again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from statistics import median
from typing import Any

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, PastFamily, course_bank
from vendaval.levels.models import LearnerState
from vendaval.levels.rebuild import histories
from vendaval.levels.settings import CHANGE
from vendaval_core.measure.journal import Entry, rebuild
from vendaval_core.measure.level import LevelReading, LevelScale, read_levels
from vendaval_core.measure.posterior import infer
from vendaval_core.measure.response import ResponseCurve

# Learners who are looked at: those who answered last. A shift of less is none to them.
MOST_LEARNERS = 60
FEWEST_POINTS = 1.0


def effect_of(course: Course, proposals: Sequence[Mapping[str, Any]]) -> dict[str, float]:
    """How many of the learners looked at would see a level move by a point or more, the middle of
    the largest shift of each of those, and the largest of all."""
    bank = course_bank(course)
    curves = {
        one["item"]: ResponseCurve(**one["proposed"] | {"steps": tuple(one["proposed"]["steps"])})
        for one in proposals
        if one["proposed"] is not None
    }
    rows = LearnerState.objects.filter(
        enrolment__course=course, enrolment__until=None, enrolment__person__practice_for=None
    )
    learners = list(
        rows.exclude(answers=0).order_by("-last_answer_at").values_list("enrolment", flat=True)
    )[:MOST_LEARNERS]
    if not curves or not learners:
        return {"learners": len(learners), "moved": 0, "middle": 0.0, "largest": 0.0}
    now, then = _levels(bank, learners), _levels(_with(bank, curves), learners)
    shifts = [
        max(abs(a.level - b.level) for a, b in zip(now[one], then[one], strict=True))
        for one in learners
    ]
    moved = [shift for shift in shifts if shift >= FEWEST_POINTS]
    return {
        "learners": len(learners),
        "moved": len(moved),
        "middle": round(median(moved), 1) if moved else 0.0,
        "largest": round(max(shifts), 1),
    }


def _with(bank: CourseBank, curves: Mapping[str, ResponseCurve]) -> CourseBank:
    """The course with other curves."""
    past = {
        pk: PastFamily(one.key, one.topic, curves.get(one.key, one.curve), one.mark)
        for pk, one in bank.past.items()
    }
    scales = tuple(
        LevelScale.of([past[item.id].curve for item in bank.of_topic(topic.number)])
        for topic in bank.topics
    )
    return replace(bank, past=past, scales=scales)


def _levels(bank: CourseBank, learners: Sequence[int]) -> dict[int, list[LevelReading]]:
    entries: dict[int, list[Entry]] = histories(learners, bank)
    states = rebuild(bank.prior, [entries[one] for one in learners], CHANGE)
    targets = [topic.target for topic in bank.topics]
    found = {}
    for learner, state in zip(learners, states, strict=True):
        posterior, _ = infer(bank.prior, state)
        found[learner] = read_levels(posterior.marginals, posterior.sd, bank.scales, targets)
    return found
