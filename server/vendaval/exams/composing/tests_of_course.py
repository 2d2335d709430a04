"""Tests of a course as whoever composes them sees and changes them."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Count, Q, QuerySet
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank, version_of
from vendaval.delivery.schemas import PlaceOut
from vendaval.people.models import User
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval_core.assessment.composition import Composition
from vendaval_core.assessment.points import shown
from vendaval_core.assessment.rules import rule_warnings
from vendaval_core.assessment.wording import rule_lines
from vendaval_core.words import some_have

from ..columns import ReleaseData
from ..models import Attempt, Test
from .actions import make_mirror, make_test, problems_of
from .schemas import (
    ChangeTestIn,
    ComposedIn,
    ComposedLineOut,
    ComposedListOut,
    ComposedOut,
    LineOut,
    StudyLineOut,
    TestCheckOut,
)
from .stopping import stopped_of

MOST = 100
CHANGED = ("title", "directions", "materials", "composition", "rules")
REAL = Q(enrolment__person__practice_for=None)


def list_composed(course: Course, asker: User) -> ComposedListOut:
    """Tests of a course, the newest first."""
    bank = course_bank(course)
    return ComposedListOut(
        course=course.title,
        subjects=[PlaceOut(key=key, title=title) for key, title in bank.subjects],
        tests=[_line(test, asker, bank) for test in _rows(course)[:MOST]],
        topics=[PlaceOut(key=topic.key, title=topic.title) for topic in bank.topics],
        study=[
            StudyLineOut(
                topic=PlaceOut(key=topic.key, title=topic.title),
                section=section.key,
                title=section.title,
                minutes=section.minutes,
            )
            for topic in bank.topics
            for section in topic.sections
        ],
        stopped=stopped_of(course),
        release_same=ReleaseData.usual(same_versions=True),
        release_own=ReleaseData.usual(same_versions=False),
    )


def _rows(course: Course) -> QuerySet[Test]:
    real = Q(attempts__enrolment__person__practice_for=None)
    return (
        Test.objects.filter(course=course, mirror_of=None, rehearsal=False)
        .select_related("author")
        .annotate(
            given=Count("assignments", filter=Q(assignments__withdrawn_at=None), distinct=True),
            begun=Count("attempts__enrolment", filter=real, distinct=True),
        )
        .order_by("-pk")
    )


def _line(test: Test, asker: User, bank: CourseBank) -> ComposedLineOut:
    core, counts = test.composition.core(), vars(test)
    return ComposedLineOut(
        id=test.pk,
        title=test.title,
        by=test.author.display_name if test.author is not None else "",
        own=test.author_id == asker.pk,
        questions=core.questions,
        points=shown(core.points),
        minutes=minutes_of(core, bank),
        given=counts["given"],
        begun=counts["begun"],
        made_at=test.made_at,
    )


def seconds_of(composition: Composition, bank: CourseBank) -> float:
    """What the questions of a test need, a draw by the mean of what it draws from."""
    needed = 0.0
    for section in composition.sections:
        for entry in section.entries:
            known = [bank.families[k].family.seconds for k in entry.families if k in bank.families]
            needed += entry.count * sum(known) / len(known) if known else 0.0
    return needed


def minutes_of(composition: Composition, bank: CourseBank) -> int:
    """Whole minutes of the same, at least one where there is a question."""
    return max(1, round(seconds_of(composition, bank) / 60)) if composition.questions else 0


def get_composed(course: Course, test_id: int, asker: User) -> ComposedOut:
    """One test, whole; NotFound for what the course has not."""
    test, bank = _found(course, test_id), course_bank(course)
    line = _line(test, asker, bank)
    return ComposedOut(
        line=line,
        directions=test.directions,
        materials=test.materials,
        composition=test.composition,
        rules=test.rules,
        titles={
            key: version_of(bank.families[key].revision, 1, 0).title
            for section in test.composition.sections
            for entry in section.entries
            for key in entry.families
            if key in bank.families
        },
        warning=_warning(test),
        version=edit_version(_edit(test)),
    )


def _edit(test: Test) -> ComposedIn:
    return ComposedIn.model_construct(**{name: getattr(test, name) for name in CHANGED})


def _found(course: Course, test_id: int) -> Test:
    found = _rows(course).filter(pk=test_id).first()
    if found is None:
        raise NotFound(gettext("This course doesn’t have this test."))
    return found


def begun_by(attempts: QuerySet[Attempt]) -> list[str]:
    """Names of the learners whose attempts these are; practice learners are not among them."""
    rows = attempts.filter(REAL).order_by("enrolment__person__display_name")
    return list(rows.values_list("enrolment__person__display_name", flat=True).distinct())


def _attempts_at(test: Test) -> QuerySet[Attempt]:
    return Attempt.objects.filter(Q(test=test) | Q(test__mirror_of=test))


def _warning(test: Test) -> str:
    names = begun_by(_attempts_at(test))
    if not names:
        return ""
    return gettext(
        "{who_have} started it, so its questions and points can’t change. New rules apply "
        "to attempts started from now on. To change the questions, copy the test."
    ).format(who_have=some_have(names))


def check_test(course: Course, wanted: ComposedIn, by: User) -> TestCheckOut:
    """What a test would be, and what of it cannot be. Nothing is stored."""
    core, rules = wanted.composition.core(), wanted.rules.core()
    limits = [section.minutes for section in core.sections if section.minutes]
    minutes = rules.minutes if rules.minutes is not None else (sum(limits) if limits else None)
    found = rule_lines(rules, core, None if minutes is None else 60.0 * minutes)
    return TestCheckOut(
        lines=[LineOut(about=line.about, says=line.says) for line in found],
        problems=problems_of(course, wanted.composition, wanted.rules, by),
        warnings=rule_warnings(rules, same_versions=core.same_versions),
        questions=core.questions,
        points=shown(core.points),
        minutes=minutes_of(core, course_bank(course)),
    )


def compose_test(course: Course, wanted: ComposedIn, by: User) -> ComposedOut:
    """Make a test of the course; it is given to nobody yet."""
    test = make_test(
        course,
        wanted.title,
        wanted.composition,
        wanted.rules,
        by,
        directions=wanted.directions,
        materials=wanted.materials,
    )
    return get_composed(course, test.pk, by)


def change_test(course: Course, test_id: int, wanted: ChangeTestIn, by: User) -> ComposedOut:
    """Change an own test. Once a learner has begun it, its questions stay: Unprocessable, with who
    that is. Rules hold for attempts begun from now on."""
    test = _own(course, test_id, by)
    with editing(test, wanted, lambda: _edit(test)):
        problems = problems_of(course, wanted.composition, wanted.rules, by)
        if problems:
            raise Unprocessable(
                gettext("This test can’t be saved yet. Fix what is marked."), fields=problems
            )
        if wanted.composition != test.composition:
            names = begun_by(_attempts_at(test))
            if names:
                says = gettext("{who_have} started it").format(who_have=some_have(names))
                raise Unprocessable(
                    (
                        gettext(
                            "You can’t change the questions of this test any more. Copy the "
                            "test instead."
                        )
                    ),
                    fields={"composition": says},
                )
        for name in CHANGED:
            setattr(test, name, getattr(wanted, name))
        test.save(update_fields=CHANGED)
        _renew_mirror(test)
    return get_composed(course, test_id, by)


def _renew_mirror(test: Test) -> None:
    mirror = Test.objects.filter(mirror_of=test).first()
    fresh = make_mirror(test, keep=mirror)
    if fresh is None and mirror is not None:
        mirror.delete()


def _own(course: Course, test_id: int, by: User) -> Test:
    test = _found(course, test_id)
    if test.author_id != by.pk:
        raise Conflict(
            gettext("Somebody else made this test. Copy it to change it."), code="not_own"
        )
    return test


def remove_test(course: Course, test_id: int, by: User) -> None:
    """Take an own test away that was never given to anybody."""
    with transaction.atomic():
        test = _own(course, test_id, by)
        if vars(test)["given"] or begun_by(_attempts_at(test)):
            raise Conflict(
                gettext("It was assigned to learners, so you can’t delete it."), code="given"
            )
        test.delete()
