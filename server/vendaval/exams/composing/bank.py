"""The bank as whoever composes a test picks from it."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import BankFamily, CourseBank, course_bank, version_of
from vendaval.delivery.payload import Where, told_whole
from vendaval.delivery.schemas import PlaceOut, QuestionOut
from vendaval.groups.queries import collections_open_to
from vendaval.people.models import User
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.questions import gives_away, open_in_tests_of
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version

from .schemas import BankOut, FamilyLineOut, FamilyPreviewOut

FOUND = 40


def search_bank(course: Course, topic: str, words: str, person: User) -> BankOut:
    """Families of a topic, and with words in their title; essential ones first, after those of the
    asker's own groups."""
    bank, own = course_bank(course), collections_open_to(person, course)
    wanted = words.lower().split()
    found = [
        item
        for item in bank.families.values()
        if item.collection in {None, *own}
        and (not topic or item.family.topic == topic)
        and all(word in item.family.title.lower() for word in wanted)
    ]
    found.sort(
        key=lambda item: (
            item.topic,
            item.collection is None,
            not item.family.essential,
            item.curve.b,
        )
    )
    return BankOut(total=len(found), families=[_family_line(one, bank) for one in found[:FOUND]])


def _family_line(item: BankFamily, bank: CourseBank) -> FamilyLineOut:
    topic = bank.topics[item.topic]
    return FamilyLineOut(
        key=item.family.key,
        title=item.title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        kinds=[part.called for part in item.family.parts],
        essential=item.family.essential,
        versions=item.family.versions,
        seconds=round(item.family.seconds),
        difficulty=round(item.curve.b, 1),
        own=item.collection is not None,
    )


def preview_family(course: Course, key: str, seed: int, person: User) -> FamilyPreviewOut:
    """A version of a family with everything told; the first again after the last. Not for somebody
    who has it in a test of their own that is still open."""
    bank = course_bank(course)
    item = bank.families.get(key)
    if item is None or item.collection not in {None, *collections_open_to(person, course)}:
        raise NotFound(gettext("This course doesn’t have that question."))
    number = 1 + (seed - 1) % item.family.versions
    if gives_away(item.revision, number, open_in_tests_of(person)):
        raise Conflict(
            gettext("This question is in one of your own tests that is still open."),
            code="open_in_test",
        )
    version = version_of(item.revision, number, 0)
    return FamilyPreviewOut(question=with_answers(version, item.family, bank, seed))


def with_answers(version: Version, family: Family, bank: CourseBank, number: int) -> QuestionOut:
    """A version with everything told, for staff."""
    return told_whole(version, family, Where.of(bank, family), number)
