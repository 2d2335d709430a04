"""The test in which learners try everything out: what a course's pack says of it, as a test."""

from __future__ import annotations

from django.utils.translation import gettext

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
    test.title, test.directions = gettext("Rehearsal"), plan.directions
    test.composition, test.rules = _composition(plan), _rules(plan)
    return test


def kept_rehearsal(test: Test) -> Test:
    """The same, stored, so that it can be begun; two learners who are first make one. What was
    begun before keeps its own questions."""
    content = {name: getattr(test, name) for name in KEPT}
    kept, _ = Test.objects.update_or_create(
        course=test.course,
        rehearsal=True,
        defaults=content,
        create_defaults=content | {"made_at": test.made_at},
    )
    return kept


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
