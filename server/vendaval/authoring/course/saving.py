"""Changing a course's structure: what it would change, and doing it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from django.db.models import Q
from django.utils.translation import gettext
from pydantic import ValidationError

from vendaval.authoring.touching import tests_with
from vendaval.bank.actions import refresh_digest
from vendaval.bank.digests import digest_of
from vendaval.bank.kept import current_files, file_row, topic_files
from vendaval.bank.loading import load_structure, load_study, take_out_subjects
from vendaval.bank.models import Course, CourseFile
from vendaval.exams.models import Assignment
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.editing import editing
from vendaval.shared.errors import Unprocessable
from vendaval_core.authoring.keys import free_key
from vendaval_core.authoring.structure import (
    first_page,
    structure_changes,
    study_path,
    with_structure,
)
from vendaval_core.packs.course import course_faults
from vendaval_core.packs.schema import CourseModel, TopicModel
from vendaval_core.words import counted

from .pages import sections_of
from .reading import FILE, course_file, course_model, in_use, learners_of, met_in, structure
from .schemas import CourseStructure, CourseStructureIn, StructureChangesOut


def what_changes(course: Course, body: CourseStructureIn) -> StructureChangesOut:
    """What saving a structure would do."""
    before = course_model(course_file(course).text)
    after = _wanted(course, before, body)
    return StructureChangesOut(
        changes=structure_changes(before, after), means=list(_means(course, before, after))
    )


def save_structure(course: Course, body: CourseStructureIn, by: User) -> None:
    """Give a course another structure. Unprocessable for what can't be; Changed if somebody else
    changed it meanwhile."""
    with editing(course, body, lambda: structure(course)):
        file, now = course_file(course), clock.now()
        before = course_model(file.text)
        after = _wanted(course, before, body)
        changes = structure_changes(before, after)
        if not changes:
            return
        why = " ".join(changes)
        text = with_structure(file.text, after)
        file_row(course, FILE, text.encode(), now, by=by, why=why[:300]).save()
        put_in_force(course, after)
        _first_pages(course, before, after, by, now)
        _remove(course, after, by, now)
        refresh_digest(course)
        audit(AuditKind.PUBLISHED, by=by, account=by, says=f"{course.title}: {why}")


def put_in_force(course: Course, source: CourseModel) -> None:
    """Store what a course's file says of its structure."""
    course.title = source.title
    course.content = digest_of([course.content, source.model_dump(mode="json")])
    course.save(update_fields=["title", "content"])
    load_structure(course, source)


def _wanted(course: Course, before: CourseModel, body: CourseStructure) -> CourseModel:
    """What is wanted, whole and checked; what is new gets its key."""
    subjects = {one.key for one in before.subjects}
    topics = {topic.key for topic in _topics(before)}
    taken = topics | set(course.topics.values_list("key", flat=True))
    new_subjects = []
    for subject in body.subjects:
        _refuse_unknown(subject.key, subjects)
        found = []
        for topic in subject.topics:
            _refuse_unknown(topic.key, topics)
            key = topic.key or free_key(topic.title, "topic", taken)
            taken.add(key)
            found.append(topic.model_dump() | {"key": key, "title": topic.title.strip()})
        key = subject.key or free_key(subject.title, "subject", subjects)
        subjects.add(key)
        new_subjects.append({"key": key, "title": subject.title.strip(), "topics": found})
    wanted = before.model_dump() | {
        "title": body.title.strip(),
        "subjects": new_subjects,
        "constants": sorted(set(body.constants)),
    }
    try:
        after = CourseModel.model_validate(wanted)
    except ValidationError as error:
        says = {".".join(map(str, one["loc"])): one["msg"] for one in error.errors()}
        raise Unprocessable(
            gettext("A course needs a subject, and every subject a topic and a title."), fields=says
        ) from error
    faults = {".".join(map(str, path)): what for path, what in course_faults(after)}
    faults |= dict(_not_removable(course, before, after))
    faults |= dict(_not_closable(course, before, after))
    if faults:
        raise Unprocessable(gettext("The course can’t be like this."), fields=faults)
    return after


def _refuse_unknown(key: str, known: set[str]) -> None:
    if key and key not in known:
        says = gettext("“{key}” isn’t in this course any more.").format(key=key)
        raise Unprocessable(says, fields={"subjects": says})


def _gone(before: CourseModel, after: CourseModel) -> set[str]:
    kept = {topic.key for topic in _topics(after)}
    return {topic.key for topic in _topics(before)} - kept


def _not_removable(
    course: Course, before: CourseModel, after: CourseModel
) -> Iterator[tuple[str, str]]:
    gone = _gone(before, after)
    for one in in_use(course) if gone else ():
        if one.key in gone and not one.removable:
            says = gettext("“{topic}” has questions or answers, so it can be closed, not removed.")
            yield f"topics.{one.key}", says.format(topic=one.key)


def _not_closable(
    course: Course, before: CourseModel, after: CourseModel
) -> Iterator[tuple[str, str]]:
    """Topics that close though a test that learners have now, or will have, asks about them."""
    was_open = {topic.key for topic in _topics(before) if not topic.closed}
    closing = {topic.key: topic for topic in _topics(after) if topic.closed} if was_open else {}
    given = Assignment.objects.filter(test__course=course).filter(
        Q(closes=None) | Q(closes__gt=clock.now()) | Q(prolonged_until__gt=clock.now())
    )
    held = set(given.values_list("test", flat=True)) if closing.keys() & was_open else set()
    asking = tests_with(course) if held else {}
    families = course.families.filter(topic__key__in=closing.keys() & was_open, key__in=asking)
    for key, family in families.values_list("topic__key", "key"):
        for test in asking[family]:
            if test.pk in held:
                says = gettext("The test “{test}” asks about it and isn’t over yet.")
                yield f"topics.{key}", says.format(test=test.title)


def _topics(course: CourseModel) -> Iterator[TopicModel]:
    return (topic for one in course.subjects for topic in one.topics)


def _means(course: Course, before: CourseModel, after: CourseModel) -> Iterator[str]:
    """What a new structure means for learners, in sentences."""
    old = {topic.key: topic for topic in _topics(before)}
    rows = {row.key: row for row in course.topics.all()}
    learners, met = learners_of(course), met_in(rows.values())
    use = {one.key: one for one in in_use(course)}
    for topic in _topics(after):
        was, row = old.get(topic.key), rows.get(topic.key)
        if was is None or row is None:
            continue
        who = learners.get(row.pk, 0)
        if topic.closed and not was.closed and use[topic.key].questions:
            many = counted(use[topic.key].questions, "question").capitalize()
            says = gettext("{many} of {topic} won’t be asked any more. {who} a level there, kept.")
            whose = counted(who, "learner has", "learners have").capitalize()
            yield says.format(many=many, topic=topic.title, who=whose)
        if topic.target > was.target and met.get(row.pk):
            whose = counted(met[row.pk], "learner", "learners").capitalize()
            says = gettext("{who} met the target of {topic} at {old}. That stays in their record.")
            yield says.format(who=whose, topic=topic.title, old=f"{was.target:g}")
        elif topic.target != was.target and who:
            whose = counted(who, "learner has", "learners have").capitalize()
            says = gettext("{who} a level in {topic}. Plans aim for {new} from the next visit on.")
            yield says.format(who=whose, topic=topic.title, new=f"{topic.target:g}")
    for topic in _topics(after):
        if topic.key not in old:
            says = gettext("Learners see {topic} once its first question is published.")
            yield says.format(topic=topic.title)


def _first_pages(
    course: Course, before: CourseModel, after: CourseModel, by: User, at: datetime
) -> None:
    """Give new topics a study page to begin with."""
    old = {topic.key for topic in _topics(before)}
    for topic in _topics(after):
        if topic.key in old:
            continue
        text = first_page(topic.title)
        file_row(course, study_path(topic.key), text.encode(), at, by=by).save()
        row = course.topics.get(key=topic.key)
        load_study(row, sections_of(text, topic.key, topic_files(course, topic.key)).sections)


def _remove(course: Course, after: CourseModel, by: User, at: datetime) -> None:
    """Take out topics that are gone, with their pages, and subjects without any topic."""
    kept = {topic.key for topic in _topics(after)}
    for topic in course.topics.filter(pack=course.key).exclude(key__in=kept):
        for path in current_files(course, f"topics/{topic.key}/"):
            CourseFile.objects.create(
                course=course, path=path, gone=True, at=at, by=by, in_pack=False
            )
        topic.delete()
    take_out_subjects(course, [one.key for one in after.subjects])
