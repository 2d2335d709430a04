"""Tests made, mirrored and given to groups: refused, field by field, when something cannot be."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from itertools import pairwise

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.columns import StudyFirst
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import collections_open_to
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval_core.assessment.composition import composition_problems, mirror_of
from vendaval_core.assessment.paper import USUAL_MINUTES, PagesWanted
from vendaval_core.assessment.rules import Rules, ScoreKept, date_problems, rule_problems

from ..columns import CompositionData, RulesData, SectionData
from ..models import Assignment, Test


def versions_in(
    bank: CourseBank, *, rehearsal: bool = False, collections: Collection[int] | None = None
) -> dict[str, int]:
    """How many versions each live family has. rehearsal: each that is only tried out. collections:
    without the questions of all others."""
    known = bank.rehearsed if rehearsal else bank.families
    return {
        key: item.family.versions
        for key, item in known.items()
        if collections is None or item.collection in {None, *collections}
    }


def problems_of(
    course: Course,
    composition: CompositionData,
    rules: RulesData,
    by: User | None,
    dates: Mapping[str, datetime | None] | None = None,
) -> dict[str, str]:
    """What of a test cannot be, by field, with the reason. by: who makes it, and so whose groups'
    own questions may be in it. dates: opens, due, closes, where it is to be given."""
    core, kept = composition.core(), rules.core()
    collections = set() if by is None else collections_open_to(by, course)
    known = versions_in(course_bank(course), collections=collections)
    found = composition_problems(core, known)
    same = core.same_versions
    wrong = rule_problems(
        kept,
        same_versions=same,
        section_minutes=core.section_minutes,
        marked=core.wants_working,
    )
    found |= {f"rules.{name}": says for name, says in wrong.items()}
    return found | ({} if dates is None else wrong_dates(kept, dates))


def wrong_dates(rules: Rules, dates: Mapping[str, datetime | None]) -> dict[str, str]:
    """What cannot be of the dates a test is given with, by field. dates: opens, due, closes."""
    due, closes = dates["due"] is not None, dates["closes"] is not None
    found = date_problems(rules, due=due, closes=closes)
    return out_of_order(dates) | found


def out_of_order(dates: Mapping[str, datetime | None]) -> dict[str, str]:
    """Dates before one that they come after, by field. dates: in the order they should be in."""
    known = [(name, at) for name, at in dates.items() if at is not None]
    return {
        name: gettext("Must be later than the date before it")
        for (_, before), (name, after) in pairwise(known)
        if after < before
    }


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
    found = problems_of(course, composition, rules, author)
    if found:
        raise Unprocessable(
            gettext("This test can’t be saved yet. Fix what is marked."), fields=found
        )
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


def collections_in(test: Test) -> set[int]:
    """Collections whose questions are in a test."""
    bank = course_bank(test.course)
    keys = {
        key
        for section in test.composition.sections
        for entry in section.entries
        for key in entry.families
    }
    found = {bank.families[key].collection for key in keys if key in bank.families}
    return {one for one in found if one is not None}


def make_mirror(test: Test, *, keep: Test | None = None) -> Test | None:
    """The same entries with other numbers; None where no family has any. keep: the mirror it has,
    to be brought up to date."""
    versions = versions_in(course_bank(test.course))
    core, left_out = mirror_of(test.composition.core(), versions, test.composition.seed + 1)
    if not core.sections:
        return None
    gone = set(left_out)
    sections = []
    for section in test.composition.sections:
        entries = [
            entry.model_copy(update={"families": kept, "count": min(entry.count, len(kept))})
            for entry in section.entries
            if (kept := [key for key in entry.families if key not in gone])
        ]
        if entries:
            sections.append(section.model_copy(update={"entries": entries}))
    mirror = keep or Test(course=test.course, mirror_of=test, made_at=clock.now())
    mirror.title = f"{test.title[:110]}: mirror"
    mirror.directions, mirror.materials = test.directions, test.materials
    mirror.composition = CompositionData(
        sections=[SectionData.model_validate(one.model_dump()) for one in sections],
        seed=core.seed,
        same_versions=False,
        shuffled_choices=test.composition.shuffled_choices,
    )
    mirror.rules, mirror.author = mirror_rules(test.rules), test.author
    mirror.save()
    return mirror


def mirror_rules(rules: RulesData) -> RulesData:
    """As the test, as often as wanted, and everything is told at the end."""
    usual = RulesData()
    at_once = rules.tries > 1
    release = rules.release if at_once else usual.release
    return rules.model_copy(
        update={
            "attempts": None,
            "score_kept": ScoreKept.LATEST,
            "late": usual.late,
            "late_off": usual.late_off,
            "release": release,
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
    mirror_early: bool = False,
    learners: Collection[Enrolment] | None = None,
    first: Sequence[StudyFirst] = (),
    batch: str = "",
) -> Assignment:
    """Give a test to a group, or to some learners of it. Unprocessable when its rules want dates
    that are not there, or these are out of order."""
    found = wrong_dates(test.rules.core(), {"opens": opens, "due": due, "closes": closes})
    if group.course_id != test.course_id:
        found["group"] = gettext("belongs to another course")
    elif collections_in(test) - {group.collection_id}:
        found["group"] = gettext("this test has questions that belong to another group")
    if found:
        raise Unprocessable(
            gettext("This can’t be assigned yet. Fix what is marked."), fields=found
        )
    with transaction.atomic():
        row = Assignment.objects.create(
            test=test,
            group=group,
            opens=opens,
            due=due,
            closes=closes,
            pages=pages,
            pages_minutes=pages_minutes,
            mirror_early=mirror_early,
            whole_group=learners is None,
            first=list(first),
            given_by=by,
            given_at=clock.now(),
            batch=batch,
        )
        row.learners.set(learners or ())
    return row
