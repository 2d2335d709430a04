"""Giving tests of the course to a group or to some of it, and changing how one was given."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import datetime

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.groups import withdrawing
from vendaval.groups.batches import new_batch, shared_out
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.people.models import User
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval_core.assessment.composition import without
from vendaval_core.assessment.paper import PagesWanted
from vendaval_core.mastery.pace import group_ratio
from vendaval_core.words import counted, some_have

from ..composing.actions import give, wrong_dates
from ..composing.tests_of_course import begun_by, seconds_of
from ..models import Assignment, Attempt, Test
from .assigned import mirror_of_test, unchanging
from .schemas import ChangeGivenIn, GiveCheckOut, GiveIn, GivenTestOut, GiveTestIn
from .study_first import unknown_study

CHANGED = ("opens", "due", "closes", "pages", "pages_minutes", "mirror_early", "first")


def check_given(group: Group, wanted: GiveTestIn) -> GiveCheckOut:
    """What giving a test would be. Nothing is stored."""
    test = _test_of(group, wanted.test)
    learners = learners_asked_for(group, wanted.learners)
    ratio, known = group_ratio([one.state.pace for one in learners if hasattr(one, "state")])
    seconds = seconds_of(test.composition.core(), course_bank(group.course)) * ratio
    return GiveCheckOut(
        problems=_problems(test, wanted, group.course),
        learners=len(learners),
        minutes=max(1, round(seconds / 60)),
        says=gettext("based on the pace of {learners}").format(learners=counted(known, "learner"))
        if known
        else gettext("at the usual pace"),
        mirror_says=_mirror_says(test, group.course),
    )


def _mirror_says(test: Test, course: Course) -> str:
    """What a mirror tried before the test would show; empty where there is none."""
    mirror = mirror_of_test(test)
    if mirror is None:
        return ""
    mirror.course = course
    held = unchanging(mirror, course_bank(course))
    shows = without(mirror.composition.core(), held).questions
    of = test.composition.core().questions
    says = gettext(
        "It has {shows} of the {questions}, with other numbers, and shows their answers."
    ).format(shows=shows, questions=counted(of, "question"))
    if shows < of:
        says += gettext(
            " It leaves out questions with the same answer in every version until the "
            "test has shown its answers."
        )
    return says


def _test_of(group: Group, test_id: int) -> Test:
    rows = Test.objects.filter(course=group.course_id, mirror_of=None, rehearsal=False)
    found = rows.filter(pk=test_id).first()
    if found is None:
        raise NotFound(gettext("This course doesn’t have this test."))
    return found


def learners_asked_for(group: Group, wanted: Collection[int] | None) -> list[Enrolment]:
    """The learners asked for; NotFound for anybody who is not in the group."""
    members = list(members_of(group))
    if wanted is None:
        return members
    found = [one for one in members if one.pk in set(wanted)]
    if len(found) < len(set(wanted)):
        raise NotFound(gettext("This learner isn’t in this group."))
    return found


def _problems(test: Test, wanted: GiveIn, course: Course) -> dict[str, str]:
    return wrong_dates(test.rules.core(), _dates(wanted)) | unknown_study(course, wanted.first)


def _dates(wanted: GiveIn) -> dict[str, datetime | None]:
    return {"opens": wanted.opens, "due": wanted.due, "closes": wanted.closes}


def give_to_groups(groups: Sequence[Group], wanted: GiveTestIn, by: User) -> list[Assignment]:
    """Give a test to several groups at once, or to none of them."""
    batch = new_batch(groups)
    with transaction.atomic():
        return [give_test(one, wanted, by, batch) for one in groups]


def give_test(group: Group, wanted: GiveTestIn, by: User, batch: str = "") -> Assignment:
    """Give a test of the course to the group, or to the learners named."""
    test = _test_of(group, wanted.test)
    learners = learners_asked_for(group, wanted.learners)
    problems = _problems(test, wanted, group.course)
    if problems:
        raise Unprocessable(
            gettext("This can’t be assigned yet. Fix what is marked."), fields=problems
        )
    return give(
        test,
        group,
        by,
        **_dates(wanted),
        pages=wanted.pages,
        pages_minutes=wanted.pages_minutes,
        mirror_early=wanted.mirror_early,
        learners=None if wanted.learners is None else learners,
        first=wanted.first,
        batch=batch,
    )


def given_edit(row: Assignment) -> GiveIn:
    """How a test is given, as a change of it would be sent."""
    return GiveIn.model_construct(
        opens=row.opens,
        due=row.due,
        closes=row.closes,
        pages=PagesWanted(row.pages),
        pages_minutes=row.pages_minutes,
        mirror_early=row.mirror_early,
        learners=None if row.whole_group else sorted(one.pk for one in row.learners.all()),
        first=row.first,
    )


def given_out(row: Assignment, person: User) -> GivenTestOut:
    """How a test was given, to be changed."""
    edit = given_edit(row)
    return GivenTestOut(
        **dict(edit),
        id=row.pk,
        test=row.test_id,
        title=row.test.title,
        warning=_warning(row),
        shared=shared_out(row, person),
        version=edit_version(edit),
    )


def _warning(row: Assignment) -> str:
    attempts = Attempt.objects.filter(assignment=row)
    going = begun_by(attempts.filter(handed_in_at=None))
    if going:
        at = gettext("{who_have} working on it").format(who_have=some_have(going, "is", "are"))
        return gettext("{at}. They keep the dates and pages they started with.").format(at=at)
    begun = begun_by(attempts)
    if begun:
        return gettext("{who_have} handed in. Their results follow the new dates.").format(
            who_have=some_have(begun)
        )
    return ""


def change_given(row: Assignment, wanted: ChangeGivenIn) -> Assignment:
    """Change dates, pages, learners and what to study first. Whoever has begun keeps it:
    Unprocessable, with who that is, where they would be left out."""
    group = row.group
    learners = learners_asked_for(group, wanted.learners)
    problems = _problems(row.test, wanted, group.course)
    if wanted.learners is not None:
        others = Attempt.objects.filter(assignment=row).exclude(enrolment__in=learners)
        begun = begun_by(others)
        if begun:
            problems["learners"] = gettext(
                "{who_have} started it, so you can’t leave them out"
            ).format(who_have=some_have(begun))
    if problems:
        raise Unprocessable(
            gettext("This can’t be assigned yet. Fix what is marked."), fields=problems
        )
    with editing(row, wanted, lambda: given_edit(row)):
        for name in CHANGED:
            setattr(row, name, getattr(wanted, name))
        row.whole_group = wanted.learners is None
        row.save()
        row.learners.set([] if wanted.learners is None else learners)
    return row


def change_together(
    row: Assignment, wanted: ChangeGivenIn, others: Sequence[Assignment]
) -> Assignment:
    """Change a test as it was given, and in other groups what isn't about single learners."""
    with transaction.atomic():
        changed = change_given(row, wanted)
        for other in others:
            other.test = row.test
            now = given_edit(other)
            said = dict(wanted) | {"learners": now.learners, "version": edit_version(now)}
            change_given(other, ChangeGivenIn(**said))
    return changed


def withdraw(row: Assignment) -> None:
    """Take a test back that nobody has begun; else Conflict, with who has."""
    with transaction.atomic():
        _withdraw(row)


def _withdraw(row: Assignment) -> None:
    begun = begun_by(Attempt.objects.filter(assignment=row))
    if begun:
        raise Conflict(
            (
                gettext(
                    "{who_have} started it, so you can’t remove it. Set its closing date instead."
                ).format(who_have=some_have(begun))
            ),
            code="begun",
        )
    withdrawing.withdraw(row)
