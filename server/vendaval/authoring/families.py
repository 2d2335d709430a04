"""A family as its author opens it: what is published, what is drafted, and its file read."""

from __future__ import annotations

import time
from collections.abc import Callable, Collection
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.utils.translation import gettext

from vendaval.bank.kept import current_files, family_path, text_of, topic_files
from vendaval.bank.models import Course, Family, FamilyRevision, StudySection, Topic
from vendaval.people.models import User
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.questions import open_in_tests_of
from vendaval_core.authoring.table import ROWS
from vendaval_core.packs.families import FamilyRead, read_family
from vendaval_core.packs.language import ENGLISH, Language, language
from vendaval_core.packs.located import PackProblem, parse_yaml
from vendaval_core.packs.schema import CourseModel

from .models import Draft

# The twelve versions are drawn while somebody types, so not all the others may be looked at; and
# not even these where what somebody wrote takes long to work out.
SECONDS_FOR_VERSIONS, MOST_SECONDS = 0.04, 1.5


@dataclass(frozen=True, slots=True)
class Opened:
    """A family that somebody writes. family: what is published of it, None for a new one. draft:
    None while nothing was changed."""

    course: Course
    topic: Topic
    key: str
    family: Family | None
    draft: Draft | None
    rehearsal: bool

    @property
    def collection_id(self) -> int | None:
        """Whose own it is, nothing for one of the course."""
        held = self.family or self.draft
        return None if held is None else held.collection_id

    @property
    def published(self) -> FamilyRevision | None:
        """The revision in force."""
        return None if self.family is None else self.family.latest

    @property
    def path(self) -> str:
        """Where its file lies in the course's pack."""
        return family_path(self.topic.key, self.key, rehearsal=self.rehearsal)

    @property
    def published_text(self) -> str | None:
        """The file that is published."""
        return None if self.published is None else text_of(self.published)

    @property
    def text(self) -> str:
        """Its file as it is drafted, or else as it is published."""
        return self.draft.text if self.draft is not None else self.published_text or ""

    def read(self, text: str) -> FamilyRead:
        """A text of it, read with the files of its topic."""
        return read_text(self.course, self.topic, self.key, self.path, text)


def read_text(course: Course, topic: Topic, key: str, path: str, text: str) -> FamilyRead:
    """Read a family's text with the files of its topic; a section that is missing is a problem."""
    found = read_family(text, path, key, topic.key, topic_files(course, topic.key))
    if found.read is None or found.located is None:
        return found
    where, _, section = found.read.family.study.rpartition("#")
    known = StudySection.objects.filter(topic__course=course, topic__key=where or topic.key)
    if known.filter(key=section).exists():
        return found
    says = gettext("no section “{study}”").format(study=found.read.family.study)
    wrong = found.located.problem(["study"], says)
    return FamilyRead(found.data, found.located, None, (wrong,))


def opened(course: Course, key: str, person: User) -> Opened:
    """A family of a course, or one in the making. Not for somebody who has it in a test of their
    own that is still open."""
    found = opened_in_background(course, key)
    if found.family is not None:
        refuse_own_tests({found.family.pk}, person)
    return found


def refuse_own_tests(families: Collection[int], person: User) -> None:
    """Conflict for somebody who has one of these in a test of their own that is still open."""
    if any(family in families for family, _ in open_in_tests_of(person)):
        raise Conflict(
            gettext("This question is in one of your own tests that is still open."),
            code="open_in_test",
        )


def opened_in_background(course: Course, key: str) -> Opened:
    """A family of a course, or one in the making, for work that shows it to nobody."""
    draft = Draft.objects.filter(course=course, key=key).select_related("topic", "base", "by")
    family = (
        Family.objects.filter(course=course, key=key)
        .exclude(latest=None)
        .select_related("topic", "latest__source__by")
        .first()
    )
    own = draft.first()
    if own is None and family is None:
        raise NotFound(gettext("This course doesn’t have that question."))
    if family is not None:
        family.course = course
    topic = own.topic if own is not None else family.topic if family is not None else None
    assert topic is not None, "one of the two is there"
    return Opened(course, topic, key, family, own, family is not None and family.rehearsal)


@lru_cache(maxsize=64)
def _rules(file: int, text: str) -> Language:
    read = parse_yaml(text, "course.yaml")
    if isinstance(read, PackProblem):
        return ENGLISH
    words: Any = CourseModel.model_validate(read.data).language
    return language(**words.model_dump())


def rules_of(course: Course) -> Language:
    """What reads wrongly in a course's sentences."""
    row = current_files(course, "course.yaml").get("course.yaml")
    return ENGLISH if row is None else _rules(row.pk, row.text)


def enough_versions() -> Callable[[int], bool]:
    """Whether so many versions are enough by now, from when this was called: by the time they took
    the processor, which others who are busy don't take from."""
    began = time.thread_time()

    def enough(versions: int) -> bool:
        took = time.thread_time() - began
        return took > (SECONDS_FOR_VERSIONS if versions >= ROWS else MOST_SECONDS)

    return enough
