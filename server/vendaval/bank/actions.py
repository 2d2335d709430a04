"""Loading a pack into the database: all of it or nothing."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import asdict

from django.db import transaction
from django.db.models import ProtectedError

from vendaval_core.packs.located import PackInvalid, PackProblem
from vendaval_core.packs.reader import Pack

from . import models


def _digest(data: object) -> str:
    return hashlib.sha256(json.dumps(data, sort_keys=True, ensure_ascii=False).encode()).hexdigest()


def _load_family(topic: models.Topic, key: str, data: dict[str, object]) -> None:
    family, _ = models.Family.objects.get_or_create(
        course=topic.course, key=key, defaults={"topic": topic}
    )
    digest = _digest(data)
    family.topic = topic
    family.live = True
    if family.latest is None or family.latest.digest != digest:
        number = family.revisions.count() + 1
        family.latest = family.revisions.create(number=number, data=data, digest=digest)
    family.save()


def _load_study(topic: models.Topic, pack: Pack) -> None:
    sections = pack.study[topic.key]
    topic.sections.exclude(key__in=[section.id for section in sections]).delete()
    for position, section in enumerate(sections):
        topic.sections.update_or_create(
            key=section.id,
            defaults={
                "title": section.title,
                "markdown": section.markdown,
                "figure": asdict(section.figure) if section.figure else {},
                "minutes": section.minutes,
                "position": position,
            },
        )


def _take_out_topics(course: models.Course, kept: set[str]) -> None:
    """Delete topics that are gone from the pack; PackInvalid where learners have levels in one."""
    problems = []
    for topic in course.topics.exclude(key__in=kept):
        families = topic.families.all()
        try:
            with transaction.atomic():
                families.update(latest=None)
                families.delete()
                topic.delete()
        except ProtectedError:
            what = f"learners have levels in “{topic.key}”, so it cannot be taken out"
            problems.append(PackProblem("course.yaml", 1, "subjects", what))
    if problems:
        raise PackInvalid(problems)


@transaction.atomic
def load_pack(pack: Pack) -> models.Course:
    """Store a checked pack. A family that changed gets a new revision; one that is gone is no
    longer live, its history stays. PackInvalid, and nothing changed, when a topic that learners
    have levels in is gone."""
    source = pack.course
    families = {item.family.key: item for item in pack.families}
    content = _digest(
        [
            source.model_dump(mode="json"),
            {key: item.data for key, item in families.items()},
            {
                key: [(s.markdown, repr(s.figure)) for s in sections]
                for key, sections in pack.study.items()
            },
            {item.family.key: item.data for item in pack.rehearsal},
        ]
    )
    course, _ = models.Course.objects.update_or_create(
        key=source.key,
        defaults={
            "title": source.title,
            "school": source.school,
            "prior": source.prior.model_dump(),
            "content": content,
            "rehearsal": [[item.family.key, item.data] for item in pack.rehearsal],
        },
    )
    for s, subject_source in enumerate(source.subjects):
        subject, _ = course.subjects.update_or_create(
            key=subject_source.key, defaults={"title": subject_source.title, "position": s}
        )
        for t, topic_source in enumerate(subject_source.topics):
            topic, _ = course.topics.update_or_create(
                key=topic_source.key,
                defaults={
                    "subject": subject,
                    "title": topic_source.title,
                    "position": t,
                    "target": topic_source.target,
                    "importance": topic_source.importance,
                    "after": topic_source.after,
                },
            )
            _load_study(topic, pack)
            for item in pack.families:
                if item.family.topic == topic.key:
                    _load_family(topic, item.family.key, item.data)
    course.families.exclude(key__in=families).update(live=False)
    _take_out_topics(course, {t.key for s in source.subjects for t in s.topics})
    course.subjects.exclude(key__in=[subject.key for subject in source.subjects]).delete()
    refresh_digest(course)
    return course


def refresh_digest(course: models.Course) -> None:
    """Give the course the digest of its content, of the rows that hold it (content that comes
    back may be in new ones), and of the parameters in force."""
    curves = models.FamilyCurve.objects.filter(family__course=course).order_by("pk")
    topics = course.topics.order_by("pk").values_list("pk", flat=True)
    revisions = course.families.filter(live=True).order_by("pk").values_list("pk", "latest")
    held = [list(topics), [list(row) for row in revisions]]
    course.digest = _digest([course.content, held, list(curves.values_list("pk", flat=True))])
    course.save(update_fields=["digest"])


@transaction.atomic
def apply_curves(course: models.Course, curves: Sequence[models.FamilyCurve]) -> None:
    """Put parameters in force. The ones before stay with their dates."""
    models.FamilyCurve.objects.bulk_create(curves)
    refresh_digest(course)
