"""Putting a topic into another, with its questions and what was learnt there."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.families import read_text
from vendaval.authoring.models import Draft
from vendaval.bank.actions import refresh_digest
from vendaval.bank.kept import (
    content_of,
    current_files,
    family_path,
    file_row,
    text_of,
    topic_files,
)
from vendaval.bank.loading import load_families, load_study
from vendaval.bank.models import Course, CourseFile, Topic
from vendaval.bank.resources import load_resources
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.review.models import Miss
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.threads.models import Thread
from vendaval_core.authoring.merging import Merged, TopicFolder, merged, without_topic
from vendaval_core.authoring.structure import with_structure
from vendaval_core.errors import MergingError
from vendaval_core.packs.families import PackFamily
from vendaval_core.packs.resources import resources_in
from vendaval_core.words import counted

from .pages import sections_of
from .reading import FILE, course_file, course_model, learners_of
from .saving import put_in_force
from .schemas import MergeTopicsIn, MergingOut

BESIDE = "resources/"


def what_merging_means(course: Course, body: MergeTopicsIn) -> MergingOut:
    """What putting one topic into another would do."""
    gone, stays = _topics(course, body)
    _prepared(course, gone, stays)
    return MergingOut(means=list(_means(course, gone, stays)))


def _means(course: Course, gone: Topic, stays: Topic) -> Iterator[str]:
    learners = learners_of(course).get(gone.pk, 0)
    questions = counted(gone.families.count(), "question", "questions").capitalize()
    pages = counted(gone.sections.count(), "study section", "study sections")
    says = gettext("{questions} and {pages} move to {topic}.")
    yield says.format(questions=questions, pages=pages, topic=stays.title)
    if learners:
        who = counted(learners, "learner has", "learners have").capitalize()
        says = gettext(
            "{who} answered questions of {gone}. Those answers count towards {stays} from their "
            "next visit on. The levels they saw in {gone} stay in their record."
        )
        yield says.format(who=who, gone=gone.title, stays=stays.title)
        yield gettext("You can’t undo a merge.")


def merge_topics(course: Course, body: MergeTopicsIn, by: User) -> None:
    """Put one topic into another: all of it or nothing."""
    with transaction.atomic():
        Course.objects.select_for_update().get(pk=course.pk)
        course.refresh_from_db()
        gone, stays = _topics(course, body)
        found = _prepared(course, gone, stays)
        now = clock.now()
        why = gettext("{gone} was put into {stays}.").format(gone=gone.title, stays=stays.title)
        kept = bool(learners_of(course).get(gone.pk))
        _move_files(course, gone, stays, found, by, why, now)
        _move_families(course, gone, stays, found, by, why, now)
        for model in (Miss, Thread):
            model.objects.filter(topic=gone).update(topic=stays)
        file = course_file(course)
        source = without_topic(course_model(file.text), gone.key, stays.key, kept=kept)
        text = with_structure(file.text, source)
        file_row(course, FILE, text.encode(), now, by=by, why=why).save()
        put_in_force(course, source)
        if not kept:
            gone.delete()
        refresh_digest(course)
        audit(AuditKind.PUBLISHED, by=by, account=by, says=f"{course.title}: {why}")


def _topics(course: Course, body: MergeTopicsIn) -> tuple[Topic, Topic]:
    rows = {row.key: row for row in course.topics.filter(key__in=[body.topic, body.into])}
    if body.topic not in rows or body.into not in rows:
        raise NotFound(gettext("This course doesn’t have that topic."))
    if body.topic == body.into:
        says = gettext("Choose another topic.")
        raise Unprocessable(says, fields={"into": says})
    if rows[body.into].closed:
        says = gettext("{topic} is closed.").format(topic=rows[body.into].title)
        raise Unprocessable(says, fields={"into": says})
    return rows[body.topic], rows[body.into]


def _prepared(course: Course, gone: Topic, stays: Topic) -> Merged:
    """Everything as it would be. Conflict where it can't be."""
    texts = {
        row.key: (row.topic.key, text_of(row.latest))
        for row in course.families.select_related("topic", "latest__source").exclude(latest=None)
        if row.latest is not None
    }
    try:
        return merged(_folder(course, gone), _folder(course, stays), texts)
    except MergingError as error:
        raise Conflict(str(error), code=error.code) from error


def _folder(course: Course, topic: Topic) -> TopicFolder:
    start = f"topics/{topic.key}/"
    rows = current_files(course, start)
    return TopicFolder(
        topic.key, {path[len(start) :]: content_of(row) for path, row in rows.items()}
    )


def _move_files(
    course: Course, gone: Topic, stays: Topic, found: Merged, by: User, why: str, at: datetime
) -> None:
    for path in current_files(course, f"topics/{gone.key}/"):
        CourseFile.objects.create(
            course=course, path=path, gone=True, at=at, by=by, why=why, in_pack=False
        )
    for name, content in found.files.items():
        file_row(course, f"topics/{stays.key}/{name}", content, at, by=by, why=why).save()
    files = _folder(course, stays).files
    page = sections_of(files["study.md"].decode(), stays.key, topic_files(course, stays.key))
    load_study(stays, page.sections)
    beside = {name[len(BESIDE) :]: one for name, one in files.items() if name.startswith(BESIDE)}
    sizes = {name: len(content) for name, content in beside.items()}
    text = beside.get("list.yaml", b"").decode()
    resources, _ = resources_in(text, stays.key, [one.id for one in page.sections], sizes)
    load_resources(stays, resources, beside.__getitem__)


def _move_families(
    course: Course, gone: Topic, stays: Topic, found: Merged, by: User, why: str, at: datetime
) -> None:
    rows = course.families.select_related("topic", "latest__source").exclude(latest=None)
    moved: dict[str, PackFamily] = {}
    for row in rows:
        if row.topic_id != gone.pk and row.key not in found.families:
            continue
        assert row.latest is not None
        topic = stays if row.topic_id == gone.pk else row.topic
        text = found.families.get(row.key, text_of(row.latest))
        path = family_path(topic.key, row.key, rehearsal=row.rehearsal)
        read = read_text(course, topic, row.key, path, text).read
        live = row.live or row.rehearsal or hasattr(row, "stopped")
        if read is None or not live:
            # What is asked of nobody any more only goes along.
            row.topic = topic
            row.save(update_fields=["topic"])
        elif row.rehearsal or topic.pk != stays.pk:
            load_families(topic, {row.key: read}, at, rehearsal=row.rehearsal, by=by, why=why)
        else:
            moved[row.key] = read
    load_families(stays, moved, at, by=by, why=why)
    Draft.objects.filter(topic=gone).update(topic=stays)
