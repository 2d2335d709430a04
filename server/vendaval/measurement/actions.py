"""Proposing and applying calibrations."""

from __future__ import annotations

from collections.abc import Callable, Collection
from datetime import datetime
from typing import Any

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.actions import apply_curves
from vendaval.bank.fresh import fresh_since
from vendaval.bank.models import Course, FamilyCurve
from vendaval.bank.snapshot import course_bank, curve_of, family_of, version_of
from vendaval.levels.checking import refresh_states
from vendaval.levels.settings import CHANGE
from vendaval.shared import clock
from vendaval.shared.errors import Conflict
from vendaval_core.measure.calibration.course import Proposal, propose
from vendaval_core.measure.response import ResponseCurve

from .effect import effect_of
from .models import Calibration
from .queries import log_answers


def curve_data(curve: ResponseCurve) -> dict[str, Any]:
    """A curve as it is stored and printed."""
    return {
        "a": round(curve.a, 5),
        "b": round(curve.b, 5),
        "c": round(curve.c, 5),
        "steps": [round(step, 5) for step in curve.steps],
    }


def proposal_data(proposal: Proposal) -> dict[str, Any]:
    """A proposal as it is stored and printed: present and proposed side by side."""

    def rounded(value: float | None) -> float | None:
        return None if value is None else round(value, 4)

    return {
        "item": proposal.family,
        "present": curve_data(proposal.present),
        "proposed": curve_data(proposal.proposed) if proposal.proposed else None,
        "se": {name: rounded(value) for name, value in proposal.errors.items()},
        "answers": proposal.answers,
        "fit": {"infit": rounded(proposal.infit), "outfit": rounded(proposal.outfit)},
        "version_spread": rounded(proposal.spread.sd) if proposal.spread else None,
        "varies": proposal.varies,
        "drifted": proposal.drifted,
        "drift": rounded(proposal.drift),
        "asks": list(proposal.asks),
        "problems": list(proposal.problems),
    }


def propose_calibration(
    course: Course, by: str, progress: Callable[[str], None] = lambda _: None
) -> Calibration:
    """Calibrate every topic from the course's log and keep the result as a proposal."""
    bank = course_bank(course)
    answers, begins = log_answers(course), (course.prior.mean, course.prior.sd)
    proposals: list[dict[str, Any]] = []
    for topic in bank.topics:
        progress(topic.title)
        present = {item.family.key: item.curve for item in bank.of_topic(topic.number)}
        found = propose(present, answers.get(topic.id, []), begins, CHANGE)
        proposals += [proposal_data(proposal) | {"topic": topic.key} for proposal in found]
    return keep_calibration(course, proposals, by)


def keep_calibration(
    course: Course, proposals: list[dict[str, Any]], by: str, table: str = ""
) -> Calibration:
    """Keep what a calibration proposes. table: name of the table it was made of, if of one."""
    return Calibration.objects.create(
        course=course,
        proposals=proposals,
        effect=effect_of(course, proposals),
        responses=sum(one["answers"] for one in proposals),
        made_by=by,
        made_at=clock.now(),
        table=table,
    )


def in_force(calibration: Calibration) -> set[str]:
    """Keys of the families whose curve in force is a calibration's."""
    rows = FamilyCurve.objects.filter(family__course=calibration.course).order_by("pk")
    latest: dict[str, int] = dict(rows.values_list("family__key", "calibration"))
    return {key for key, number in latest.items() if number == calibration.pk}


def _put_in_force(calibration: Calibration, by: str, only: Collection[str] | None) -> int:
    now = clock.now()
    done = in_force(calibration)
    families = {family.key: family for family in calibration.course.families.all()}
    # What it says of these was said of another question.
    fresh = fresh_since(course=calibration.course)
    changed = {
        key
        for key, family in families.items()
        if family.pk in fresh and fresh[family.pk].at > calibration.made_at
    }
    curves = [
        FamilyCurve(
            family=families[data["item"]],
            **data["proposed"],
            errors=data["se"],
            answers=data["answers"],
            calibration=calibration.pk,
            applied_by=by,
            applied_at=now,
        )
        for data in calibration.proposals
        if data["proposed"] is not None
        and data["item"] not in changed | done
        and (only is None or data["item"] in only)
    ]
    apply_curves(calibration.course, curves)
    if only is None:
        calibration.applied_by, calibration.applied_at = by, now
        calibration.save(update_fields=["applied_by", "applied_at"])
    return len(curves)


def apply_calibration(
    calibration_id: int,
    by: str,
    progress: Callable[[int], None] = lambda _: None,
    only: Collection[str] | None = None,
) -> tuple[int, int]:
    """Put a calibration's proposals in force and make every level again. only: keys of families,
    all of them where that is None.

    Families without a proposal keep their curve. Returns families moved and learners recomputed.
    Recorded tries, scores and levels stay as they are: new levels are added. Should it be cut off
    half way, the remaining learners are recomputed when they next come.
    """
    with transaction.atomic():
        calibration = Calibration.objects.select_related("course").get(pk=calibration_id)
        if calibration.applied_at is not None:
            raise Conflict(
                gettext("This calibration has already been applied."), code="already_applied"
            )
        moved = _put_in_force(calibration, by, only)
    return moved, refresh_states(calibration.course, progress)


def undo_calibration(calibration_id: int, by: str, only: Collection[str]) -> tuple[int, int]:
    """Put the curves in force again that families had before a calibration: earlier ones, or what
    the author judged. Nothing is deleted. Returns as `apply_calibration` does."""
    now = clock.now()
    with transaction.atomic():
        calibration = Calibration.objects.select_related("course").get(pk=calibration_id)
        newest: dict[str, FamilyCurve] = {}
        rows = FamilyCurve.objects.filter(
            family__course=calibration.course, family__key__in=only
        ).select_related("family__latest__family__topic")
        before: dict[str, FamilyCurve] = {}
        for row in rows.order_by("pk"):
            newest[row.family.key] = row
            if row.calibration != calibration_id:
                before[row.family.key] = row
        curves = [
            _again(row, before.get(key), by, now)
            for key, row in newest.items()
            if row.calibration == calibration_id
        ]
        apply_curves(calibration.course, curves)
        if curves:
            calibration.applied_by, calibration.applied_at = "", None
            calibration.save(update_fields=["applied_by", "applied_at"])
    return len(curves), refresh_states(calibration.course)


def _again(row: FamilyCurve, before: FamilyCurve | None, by: str, now: datetime) -> FamilyCurve:
    """The curve in force before another one, as a row of its own."""
    if before is not None:
        fields = ("family", "a", "b", "c", "steps", "errors", "answers", "calibration")
        kept = {name: getattr(before, name) for name in fields}
        return FamilyCurve(**kept, applied_by=by, applied_at=now)
    revision = row.family.latest
    assert revision is not None, "a family with a curve has a revision"
    judged = curve_of(version_of(revision, 1, 0), family_of(revision).difficulty, None)
    return FamilyCurve(
        family=row.family,
        **curve_data(judged),
        answers=0,
        calibration=0,
        applied_by=by,
        applied_at=now,
    )
