"""What publishing a family touches: who has it open, which tests ask it, which misses are open."""

from __future__ import annotations

from collections.abc import Iterator

from django.utils.translation import gettext

from vendaval.bank.models import Course, Family, Trial
from vendaval.exams.models import Test
from vendaval.review.models import Miss, MissState
from vendaval.work.models import Presentation
from vendaval_core.words import counted

MOST_TITLES = 3


def tests_with(course: Course) -> dict[str, list[Test]]:
    """Tests of a course that name a family, by its key."""
    found: dict[str, list[Test]] = {}
    for test in Test.objects.filter(course=course, rehearsal=False).order_by("pk"):
        for key in _named(test):
            found.setdefault(key, []).append(test)
    return found


def _named(test: Test) -> set[str]:
    """Keys of the families that a test asks, or draws from."""
    entries = (entry for section in test.composition.sections for entry in section.entries)
    return {family for entry in entries for family in entry.families}


def touched(course: Course, family: Family | None) -> list[str]:
    """What a new revision of a family means for others, in sentences."""
    if family is None:
        return [gettext("This is a new question. Learners get it in practice from now on.")]
    return list(_touched(course, family))


def _touched(course: Course, family: Family) -> Iterator[str]:
    open_ = Presentation.objects.filter(
        revision__family=family, closed_at=None, run__ended_at=None
    ).count()
    if open_:
        who = counted(open_, "learner has", "learners have").capitalize()
        yield gettext("{who} it open now. They finish it as it was.").format(who=who)
    tests = tests_with(course).get(family.key, [])
    if tests:
        names = ", ".join(f"“{test.title}”" for test in tests[:MOST_TITLES])
        many = counted(len(tests), "test uses it", "tests use it").capitalize()
        yield gettext("{many}: {names}. Attempts begun from now on get it as it will be.").format(
            many=many, names=names
        )
    misses = Miss.objects.filter(family=family, state=MissState.OPEN).count()
    if misses:
        who = counted(misses, "learner has", "learners have").capitalize()
        yield gettext("{who} a miss of it to mend. Fresh versions come as it will be.").format(
            who=who
        )
    trial = Trial.objects.filter(family=family, ended_at=None).first()
    if trial is not None:
        says = gettext("A trial of it goes on ({name}). It ends, since the question changes.")
        yield says.format(name=trial.name)
    if not (open_ or tests or misses or trial):
        yield gettext("Nobody has it open, no test names it, and nobody has a miss of it to mend.")
