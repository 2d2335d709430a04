"""New courses: from their first topic, or as a copy of another for another year."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from tempfile import TemporaryDirectory

from django.db import transaction

from vendaval.people.models import School, User
from vendaval.shared import clock
from vendaval_core.authoring.keys import free_key
from vendaval_core.authoring.structure import course_called, new_course
from vendaval_core.packs.reader import read_pack

from . import models
from .actions import refresh_digest
from .kept import IN_FILES, current_files, text_of
from .loading import load_pack

FILE = "course.yaml"


def key_of_course(title: str) -> str:
    """A key made of a title that no course has."""
    return free_key(title, "course", set(models.Course.objects.values_list("key", flat=True)))


def make_course(school: School, title: str, subject: str, topic: str) -> models.Course:
    """A course with one topic and no question yet."""
    return _loaded(new_course(key_of_course(title), title, school.name, subject, topic))


def _loaded(files: Mapping[str, str]) -> models.Course:
    with TemporaryDirectory() as folder:
        for path, text in files.items():
            target = Path(folder) / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_text(text)
        return load_pack(read_pack(Path(folder)))


@transaction.atomic
def copy_course(source: models.Course, title: str, by: User) -> models.Course:
    """A course with everything another one has but its learners: topics, pages, files, and every
    question that is asked, with the curves in force."""
    key, now = key_of_course(title), clock.now()
    course = models.Course.objects.create(
        key=key,
        title=title,
        school=source.school,
        prior=source.prior,
        rehearsal=source.rehearsal,
        content=source.content,
    )
    subjects = {}
    for row in source.subjects.all():
        subjects[row.pk] = course.subjects.create(
            key=row.key, title=row.title, position=row.position
        )
    topics = {}
    for topic in source.topics.prefetch_related("sections", "resources"):
        sections, resources = list(topic.sections.all()), list(topic.resources.all())
        old = topic.pk
        topic.pk, topic.course, topic.pack = None, course, key
        topic.subject = subjects[topic.subject_id]
        topic.save(force_insert=True)
        topics[old] = topic
        for section in sections:
            section.pk, section.topic = None, topic
        for resource in resources:
            resource.pk, resource.topic = None, topic
        models.StudySection.objects.bulk_create(sections)
        models.Resource.objects.bulk_create(resources)
    for path, file in current_files(source).items():
        text = course_called(file.text, key, title) if path == FILE else file.text
        models.CourseFile.objects.create(
            course=course, path=path, text=text, stored=file.stored, at=now, by=by, in_pack=False
        )
    _copy_families(source, course, topics, by)
    refresh_digest(course)
    return course


def _copy_families(
    source: models.Course,
    course: models.Course,
    topics: Mapping[int, models.Topic],
    by: User,
) -> None:
    now = clock.now()
    curves = {
        curve.family_id: curve
        for curve in models.FamilyCurve.objects.filter(family__course=source).order_by("pk")
    }
    asked = source.families.filter(IN_FILES).exclude(latest=None).order_by("pk")
    rows = list(asked.select_related("latest__source", "stopped"))
    families = models.Family.objects.bulk_create(
        models.Family(
            course=course,
            topic=topics[row.topic_id],
            key=row.key,
            live=row.live,
            rehearsal=row.rehearsal,
            pack=course.key,
        )
        for row in rows
    )
    revisions, sources, stopped, kept = [], [], [], []
    for row, family in zip(rows, families, strict=True):
        latest = row.latest
        assert latest is not None, "others are left out"
        family.latest = models.FamilyRevision(
            family=family, number=1, data=latest.data, digest=latest.digest
        )
        revisions.append(family.latest)
        sources.append(
            models.RevisionSource(
                revision=family.latest,
                text=text_of(latest),
                why=source.title,
                by=by,
                at=now,
                in_pack=False,
            )
        )
        if hasattr(row, "stopped"):
            row.stopped.pk, row.stopped.family = None, family
            stopped.append(row.stopped)
        if row.pk in curves:
            curves[row.pk].pk, curves[row.pk].family = None, family
            kept.append(curves[row.pk])
    models.FamilyRevision.objects.bulk_create(revisions)
    models.Family.objects.bulk_update(families, ["latest"])
    models.RevisionSource.objects.bulk_create(sources)
    models.StoppedFamily.objects.bulk_create(stopped)
    models.FamilyCurve.objects.bulk_create(kept)
