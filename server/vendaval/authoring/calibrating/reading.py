"""A calibration as authors see it: each question's difficulty now, and as its answers say."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from django.utils.translation import gettext

from vendaval.authoring.bank.schemas import MeasuredOut
from vendaval.bank.models import Course
from vendaval.bank.snapshot import BankFamily, CourseBank, course_bank
from vendaval.delivery.schemas import PlaceOut
from vendaval.levels.models import Observation
from vendaval.measurement.actions import in_force
from vendaval.measurement.jobs import at_work
from vendaval.measurement.models import Calibration, CalibrationRun
from vendaval.shared.errors import NotFound
from vendaval_core.authoring.standing import measured_range, on_axis
from vendaval_core.measure.calibration.observed import ObservedPoint, observed_points
from vendaval_core.measure.level import LevelScale
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.words import counted

from .schemas import (
    CalibratedCurvesOut,
    CalibratedOut,
    CalibrationFilter,
    CalibrationPageOut,
    CurvePointOut,
    ObservedOut,
    RunningOut,
    Show,
)

PAGE = 40
MOST_ANSWERS = 5000


def newest(course: Course) -> Calibration | None:
    """The calibration that a course's authors look at."""
    return Calibration.objects.filter(course=course).order_by("-pk").first()


def calibration_of(course: Course, calibration_id: int) -> Calibration:
    """The newest calibration, if it is the one that is meant; else NotFound."""
    found = newest(course)
    if found is None or found.pk != calibration_id:
        raise NotFound(gettext("There is a newer calibration. Look at that one."))
    return found


def is_busy(course: Course) -> bool:
    """Whether curves of a course are about to change, or levels being made again."""
    own = Calibration.objects.filter(course=course, pk__in=at_work())
    return own.exists()


def calibration_page(course: Course, wanted: CalibrationFilter) -> CalibrationPageOut:
    """The newest calibration of a course, some of its questions at a time."""
    found, bank = newest(course), course_bank(course)
    proposals = [one for one in found.proposals if one["item"] in bank.families] if found else []
    shown: dict[Show, list[Mapping[str, Any]]] = {
        "proposed": [one for one in proposals if one["proposed"] is not None],
        "alone": [one for one in proposals if one["proposed"] is None and one["answers"]],
        "asks": [one for one in proposals if one.get("asks")],
    }
    lines = sorted(shown[wanted.show], key=lambda one: -_shift(one))
    pages = max(1, -(-len(lines) // PAGE))
    page = min(wanted.page, pages)
    accepted = in_force(found) if found else set()
    run = CalibrationRun.objects.filter(course=course).first()
    return CalibrationPageOut(
        course=course.title,
        id=found.pk if found else None,
        made_at=found.made_at if found else None,
        made_by=found.made_by if found else "",
        answers=found.responses if found else 0,
        table=found.table if found else "",
        effect=_effect(found.effect) if found else "",
        running=None
        if run is None
        else RunningOut(topic=run.topic, done=run.done, topics=run.topics),
        busy=is_busy(course),
        counts={name: len(ones) for name, ones in shown.items()},
        page=page,
        pages=pages,
        lines=[
            _line(bank, bank.families[one["item"]], one, one["item"] in accepted)
            for one in lines[(page - 1) * PAGE : page * PAGE]
        ],
    )


def _shift(one: Mapping[str, Any]) -> float:
    proposed = one["proposed"]
    return abs(proposed["b"] - one["present"]["b"]) if proposed else float(one["answers"])


def _line(
    bank: CourseBank, family: BankFamily, one: Mapping[str, Any], accepted: bool
) -> CalibratedOut:
    topic, proposed = bank.topics[family.topic], None
    if one["proposed"] is not None:
        b = one["proposed"]["b"]
        low, high = measured_range(b, one["se"].get("b") or 0.0)
        proposed = MeasuredOut(low=low, middle=on_axis(b), high=high)
    return CalibratedOut(
        key=family.family.key,
        title=family.title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        answers=one["answers"],
        present=on_axis(one["present"]["b"]),
        proposed=proposed,
        why=[_capital(says) for says in one["problems"]],
        asks=[_capital(says) for says in one.get("asks", [])],
        accepted=accepted,
    )


def _capital(says: str) -> str:
    return f"{says[:1].upper()}{says[1:].rstrip('.')}."


def _effect(effect: Mapping[str, float]) -> str:
    if not effect.get("learners"):
        return ""
    many = counted(int(effect["learners"]), "learner")
    if not effect["moved"]:
        says = gettext("We looked at {many}. If you accept all of it, no level moves by a point.")
        return says.format(many=many)
    says = gettext(
        "We looked at {many}. If you accept all of it, a level moves for {moved} of them: "
        "usually by {middle:.0f} points, by {largest:.0f} at most."
    )
    return says.format(
        moved=int(effect["moved"]),
        many=many,
        middle=effect["middle"],
        largest=effect["largest"],
    )


def calibrated_curves(course: Course, key: str) -> CalibratedCurvesOut:
    """A question's curves over the level in its topic, with what was observed."""
    bank, found = course_bank(course), newest(course)
    family = bank.families.get(key)
    proposal = next((one for one in found.proposals if one["item"] == key), None) if found else None
    if family is None or proposal is None:
        raise NotFound(gettext("This calibration doesn’t have that question."))
    scale = bank.scales[family.topic]
    levels = np.linspace(2.0, 98.0, 25)
    thetas = np.array([scale.ability(float(level)) for level in levels])
    present = _curve(proposal["present"]).share(thetas)[0]
    proposed = None if proposal["proposed"] is None else _curve(proposal["proposed"])
    then = None if proposed is None else proposed.share(thetas)[0]
    if "observed" in proposal:
        observed = [ObservedPoint(*one) for one in proposal["observed"]]
    else:
        observed = _observed(family, scale)
    return CalibratedCurvesOut(
        curves=[
            CurvePointOut(
                at=float(level),
                present=float(present[n]),
                proposed=None if then is None else float(then[n]),
            )
            for n, level in enumerate(levels)
        ],
        observed=[
            ObservedOut(at=scale.level(one.ability), share=one.share, answers=one.answers)
            for one in observed
        ],
    )


def _observed(family: BankFamily, scale: LevelScale) -> list[ObservedPoint]:
    """What the course's log has of a question."""
    rows = Observation.objects.in_force().filter(
        family=family.id,
        enrolment__person__practice_for=None,
        outcome__isnull=False,
        weight__gt=0,
        before__isnull=False,
    )
    return observed_points(
        [
            (scale.ability(row.before.level), row.outcome / (row.of - 1))
            for row in rows.order_by("-pk")[:MOST_ANSWERS]
            if row.before is not None and row.outcome is not None
        ]
    )


def _curve(data: Mapping[str, Any]) -> ResponseCurve:
    return ResponseCurve(data["a"], data["b"], data["c"], tuple(data["steps"]))
