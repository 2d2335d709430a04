"""The test in which learners try everything out: what a course's pack says of it, as a test."""

from __future__ import annotations

from vendaval.bank.models import Course
from vendaval.shared import clock
from vendaval_core.assessment.rules import ScoreKept, Tool
from vendaval_core.packs.schema import RehearsalModel

from ..columns import CompositionData, EntryData, RulesData, SectionData
from ..models import Test

KEPT = ("title", "directions", "composition", "rules")


def rehearsal_of(course: Course) -> Test | None:
    """The rehearsal of a course as its pack has it now, perhaps not stored yet; None without."""
    plan = course.rehearsal
    if plan is None:
        return None
    found = Test.objects.filter(course=course, rehearsal=True).first()
    test = found or Test(course=course, rehearsal=True, made_at=clock.now())
    test.title, test.directions = "Rehearsal", plan.directions
    test.composition, test.rules = _composition(plan), _rules(plan)
    return test


def keep_rehearsal(test: Test) -> None:
    """Store it, so that it can be begun. What was begun before keeps its own questions."""
    if test.pk is None:
        test.save()
    else:
        test.save(update_fields=KEPT)


def _composition(plan: RehearsalModel) -> CompositionData:
    return CompositionData(
        sections=[
            SectionData(
                title=section.title,
                directions=section.directions,
                entries=[EntryData(families=[key]) for key in section.questions],
                one_page=section.one_page,
                forward_only=section.forward_only,
            )
            for section in plan.sections
        ],
        same_versions=False,
    )


def _rules(plan: RehearsalModel) -> RulesData:
    """Every tool, as often as wanted, and everything is told at the end."""
    return RulesData(
        attempts=None, score_kept=ScoreKept.LATEST, minutes=plan.minutes, tools=sorted(Tool)
    )
