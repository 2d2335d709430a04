"""Tests made, mirrored and given to groups: refused, field by field, when something cannot be."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from itertools import pairwise

from django.db import transaction

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval_core.assessment.composition import composition_problems, mirror_of
from vendaval_core.assessment.paper import USUAL_MINUTES, PagesWanted
from vendaval_core.assessment.rules import Rules, ScoreKept, date_problems, rule_problems

from .kept import CompositionData, EntryData, RulesData, SectionData
from .models import Assignment, Test


def versions_in(bank: CourseBank) -> dict[str, int]:
    """How many versions each live family has."""
    return {key: item.family.versions for key, item in bank.families.items()}


def problems_of(
    course: Course,
    composition: CompositionData,
    rules: RulesData,
    dates: Mapping[str, datetime | None] | None = None,
) -> dict[str, str]:
    """What of a test cannot be, by field, with the reason. dates: opens, due, closes, where it is
    to be given."""
    core, kept = composition.core(), rules.core()
    found = composition_problems(core, dict(versions_in(course_bank(course))))
    same = core.same_versions
    wrong = rule_problems(kept, same_versions=same, section_minutes=core.section_minutes)
    found |= {f"rules.{name}": says for name, says in wrong.items()}
    return found | ({} if dates is None else wrong_dates(kept, dates))


def wrong_dates(rules: Rules, dates: Mapping[str, datetime | None]) -> dict[str, str]:
    """What cannot be of the dates a test is given with, by field. dates: opens, due, closes."""
    due, closes = dates["due"] is not None, dates["closes"] is not None
    found = date_problems(rules, due=due, closes=closes)
    known = [(name, at) for name, at in dates.items() if at is not None]
    for (_, before), (name, after) in pairwise(known):
        if after < before:
            found.setdefault(name, "before the date that it comes after")
    return found


def make_test(
    course: Course,
    title: str,
    composition: CompositionData,
    rules: RulesData,
    author: User | None,
    *,
    directions: str = "",
    materials: str = "",
) -> Test:
    """A test of a course, and its mirror beside it."""
    found = problems_of(course, composition, rules)
    if found:
        raise Unprocessable("This test cannot be as it is.", fields=found)
    with transaction.atomic():
        test = Test.objects.create(
            course=course,
            title=title,
            directions=directions,
            materials=materials,
            composition=composition,
            rules=rules,
            author=author,
            made_at=clock.now(),
        )
        make_mirror(test)
    return test


def make_mirror(test: Test) -> Test | None:
    """The same entries with other numbers; None where no family has any."""
    versions = versions_in(course_bank(test.course))
    core, left_out = mirror_of(test.composition.core(), versions, test.composition.seed + 1)
    if not core.sections:
        return None
    gone = set(left_out)
    sections = []
    for section in test.composition.sections:
        entries = [
            EntryData(families=kept, count=min(entry.count, len(kept)), points=entry.points)
            for entry in section.entries
            if (kept := [key for key in entry.families if key not in gone])
        ]
        if entries:
            sections.append(section.model_copy(update={"entries": entries}))
    return Test.objects.create(
        course=test.course,
        title=f"{test.title}: mirror",
        directions=test.directions,
        materials=test.materials,
        composition=CompositionData(
            sections=[SectionData.model_validate(one.model_dump()) for one in sections],
            seed=core.seed,
            same_versions=False,
            shuffled_choices=test.composition.shuffled_choices,
        ),
        rules=mirror_rules(test.rules),
        author=test.author,
        mirror_of=test,
        made_at=clock.now(),
    )


def mirror_rules(rules: RulesData) -> RulesData:
    """As the test, as often as wanted, and everything is told at the end."""
    usual = RulesData()
    at_once = rules.tries > 1
    telling = rules.telling if at_once else usual.telling
    return rules.model_copy(
        update={
            "attempts": None,
            "score_kept": ScoreKept.LATEST,
            "late": usual.late,
            "late_off": usual.late_off,
            "telling": telling,
        }
    )


def give(
    test: Test,
    group: Group,
    by: User | None,
    *,
    opens: datetime | None = None,
    due: datetime | None = None,
    closes: datetime | None = None,
    pages: PagesWanted = PagesWanted.NONE,
    pages_minutes: int = USUAL_MINUTES,
) -> Assignment:
    """Give a test to a group. Unprocessable when its rules want dates that are not there, or these
    are out of order."""
    found = wrong_dates(test.rules.core(), {"opens": opens, "due": due, "closes": closes})
    if group.course_id != test.course_id:
        found["group"] = "of another course"
    if found:
        raise Unprocessable("It cannot be given like this.", fields=found)
    return Assignment.objects.create(
        test=test,
        group=group,
        opens=opens,
        due=due,
        closes=closes,
        pages=pages,
        pages_minutes=pages_minutes,
        given_by=by,
        given_at=clock.now(),
    )
