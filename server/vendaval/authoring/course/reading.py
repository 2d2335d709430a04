"""A course's structure as it is, and what hangs on each of its topics."""

from __future__ import annotations

from collections.abc import Iterable

from django.db.models import Count
from django.utils.translation import gettext

from vendaval.authoring.models import Draft
from vendaval.bank.kept import current_files
from vendaval.bank.models import Course, CourseFile, Family, Topic
from vendaval.groups.writing import writers_of
from vendaval.levels.models import Observation, TargetMet
from vendaval.shared.editing import edit_version
from vendaval.shared.errors import Conflict
from vendaval_core.packs.constants import CONSTANTS
from vendaval_core.packs.located import PackProblem, parse_yaml
from vendaval_core.packs.schema import CourseModel

from .schemas import (
    CourseStructure,
    CourseStructureOut,
    CourseSubject,
    CourseTopic,
    TopicInUseOut,
)

FILE = "course.yaml"


def course_file(course: Course) -> CourseFile:
    """The file that says what a course is made of."""
    found = current_files(course, FILE).get(FILE)
    if found is None:
        says = gettext("This course’s files aren’t kept yet. Load its pack once more.")
        raise Conflict(says, code="no_files")
    return found


def course_model(text: str) -> CourseModel:
    """A course's file, which was checked before it was stored."""
    read = parse_yaml(text, FILE)
    assert not isinstance(read, PackProblem), "it was checked before"
    return CourseModel.model_validate(read.data)


def constants_of(course: Course) -> list[float]:
    """Numbers that a formula of a course may have in it."""
    kept = current_files(course, FILE).get(FILE)
    return list(CONSTANTS) if kept is None else course_model(kept.text).constants


def structure(course: Course) -> CourseStructure:
    """What of a course can be edited."""
    source = course_model(course_file(course).text)
    return CourseStructure(
        title=source.title,
        subjects=[
            CourseSubject(
                key=subject.key,
                title=subject.title,
                topics=[CourseTopic(**topic.model_dump()) for topic in subject.topics],
            )
            for subject in source.subjects
        ],
        constants=source.constants,
    )


def structure_out(course: Course) -> CourseStructureOut:
    """The same, with what hangs on each topic."""
    found = structure(course)
    return CourseStructureOut(
        title=found.title,
        subjects=found.subjects,
        constants=found.constants,
        version=edit_version(found),
        in_use=in_use(course),
        authors=[one.display_name for one in writers_of(course).order_by("display_name")],
    )


def in_use(course: Course) -> list[TopicInUseOut]:
    """What there is of each topic."""
    topics = list(course.topics.values_list("pk", "key"))
    live = dict(_by_topic(Family.objects.filter(course=course, live=True)))
    ever = dict(_by_topic(Family.objects.filter(course=course)))
    drafts = dict(_by_topic(Draft.objects.filter(course=course)))
    learners = learners_of(course)
    return [
        TopicInUseOut(
            key=key,
            questions=live.get(pk, 0),
            drafts=drafts.get(pk, 0),
            learners=learners.get(pk, 0),
            removable=not (ever.get(pk) or drafts.get(pk) or learners.get(pk)),
        )
        for pk, key in topics
    ]


def learners_of(course: Course) -> dict[int, int]:
    """How many learners have answered something of each topic, by the topic's row."""
    seen = Observation.objects.filter(topic__course=course).order_by()
    return dict(seen.values_list("topic").annotate(Count("enrolment", distinct=True)))


def met_in(topics: Iterable[Topic]) -> dict[int, int]:
    """How many learners have met each topic's target."""
    rows = TargetMet.objects.filter(topic__in=list(topics)).order_by()
    return dict(rows.values_list("topic").annotate(Count("pk")))


def _by_topic(rows: object) -> Iterable[tuple[int, int]]:
    return rows.order_by().values_list("topic").annotate(Count("pk"))  # type: ignore[attr-defined,no-any-return]
