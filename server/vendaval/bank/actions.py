"""Loading a pack into the database: all of it or nothing."""

from __future__ import annotations

import hashlib
import json
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import datetime

from django.db import transaction
from django.db.models import Count, ProtectedError
from django.utils.translation import gettext

from vendaval.people.models import School, User
from vendaval.shared.errors import Conflict
from vendaval_core.items.drawn import Picture
from vendaval_core.packs.located import PackInvalid, PackProblem
from vendaval_core.packs.reader import Pack

from . import models
from .resources import load_resources


def _digest(data: object) -> str:
    return hashlib.sha256(json.dumps(data, sort_keys=True, ensure_ascii=False).encode()).hexdigest()


def _load_families(
    topic: models.Topic, wanted: Mapping[str, object], *, rehearsal: bool = False
) -> None:
    """The families of a topic, in few queries: those that are new, that changed, that came from
    another topic or are live again. wanted: their data by key. rehearsal: whether they are only to
    be tried out."""
    rows = models.Family.objects.filter(course=topic.course, key__in=wanted)
    known = {row.key: row for row in rows.select_related("latest")}
    models.Family.objects.bulk_create(
        models.Family(course=topic.course, key=key, topic=topic, pack=topic.pack)
        for key in wanted
        if key not in known
    )
    known = {row.key: row for row in rows.select_related("latest")}
    digests = {key: _digest(data) for key, data in wanted.items()}
    changed = [
        row for key, row in known.items() if row.latest is None or row.latest.digest != digests[key]
    ]
    before = dict(
        models.FamilyRevision.objects.filter(family__in=changed)
        .values_list("family")
        .annotate(Count("pk"))
        .order_by()
    )
    made = models.FamilyRevision.objects.bulk_create(
        models.FamilyRevision(
            family=row,
            number=before.get(row.pk, 0) + 1,
            data=models.FamilyData.model_validate(wanted[row.key]),
            digest=digests[row.key],
        )
        for row in changed
    )
    for row, revision in zip(changed, made, strict=True):
        row.latest = revision
    stopped = set(models.StoppedFamily.objects.values_list("family", flat=True))
    for row in known.values():
        row.topic, row.live, row.pack = topic, not rehearsal and row.pk not in stopped, topic.pack
        row.rehearsal = rehearsal
    fields = ["topic", "live", "rehearsal", "pack", "latest"]
    models.Family.objects.bulk_update(known.values(), fields)


def _load_rehearsal(course: models.Course, pack: Pack) -> None:
    """The questions to try out, each in the topic that explains it."""
    topics = {topic.key: topic for topic in course.topics.order_by("pk")}
    wanted: dict[str, dict[str, object]] = defaultdict(dict)
    for item in pack.rehearsal:
        explained = item.family.study.rpartition("#")[0]
        topic = explained if explained in topics else next(iter(topics))
        wanted[topic][item.family.key] = item.data
    for key, families in wanted.items():
        _load_families(topics[key], families, rehearsal=True)
    kept = {key for families in wanted.values() for key in families}
    gone = course.families.filter(pack=course.key, rehearsal=True).exclude(key__in=kept)
    gone.update(rehearsal=False)


def _picture(figure: Picture | None) -> models.PictureData | None:
    if figure is None:
        return None
    return models.PictureData.model_validate(asdict(figure))


def _load_study(topic: models.Topic, pack: Pack) -> None:
    sections = pack.study[topic.key]
    topic.sections.exclude(key__in=[section.id for section in sections]).delete()
    models.StudySection.objects.bulk_create(
        [
            models.StudySection(
                topic=topic,
                key=section.id,
                title=section.title,
                markdown=section.markdown,
                figure=_picture(section.figure),
                minutes=section.minutes,
                position=position,
            )
            for position, section in enumerate(sections)
        ],
        update_conflicts=True,
        unique_fields=["topic", "key"],
        update_fields=["title", "markdown", "figure", "minutes", "position"],
    )


def _take_out_topics(course: models.Course, kept: set[str]) -> None:
    """Delete topics that are gone from the pack; PackInvalid where learners have levels in one.

    What came from elsewhere stays.
    """
    problems = []
    for topic in course.topics.filter(pack=course.key).exclude(key__in=kept):
        families = topic.families.all()
        try:
            with transaction.atomic():
                families.update(latest=None)
                families.delete()
                topic.delete()
        except ProtectedError:
            what = gettext("learners have levels in “{topic}”, so it can’t be removed").format(
                topic=topic.key
            )
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
            "open_to_all": source.open_to_all,
            "school": School.objects.get_or_create(name=source.school)[0],
            "prior": models.PriorData.model_validate(source.prior.model_dump()),
            "content": content,
            "rehearsal": source.rehearsal if pack.rehearsal else None,
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
                    "pack": source.key,
                },
            )
            _load_study(topic, pack)
            load_resources(topic, pack.resources.get(topic.key, ()))
            of_topic = [one for one in pack.families if one.family.topic == topic.key]
            _load_families(topic, {one.family.key: one.data for one in of_topic})
    _load_rehearsal(course, pack)
    gone = course.families.filter(pack=source.key).exclude(key__in=families)
    models.StoppedFamily.objects.filter(family__in=gone).delete()
    gone.update(live=False)
    _take_out_topics(course, {t.key for s in source.subjects for t in s.topics})
    left = course.subjects.exclude(key__in=[subject.key for subject in source.subjects])
    left.filter(topics=None).delete()
    refresh_digest(course)
    return course


def refresh_digest(course: models.Course) -> None:
    """Give the course and its topics the digests of their content, of the rows that hold it
    (content that comes back may be in new ones), and of the parameters in force."""
    curves: dict[int, list[int]] = defaultdict(list)
    held: dict[int, list[object]] = defaultdict(list)
    applied = models.FamilyCurve.objects.filter(family__course=course).order_by("pk")
    for topic_id, pk in applied.values_list("family__topic_id", "pk"):
        curves[topic_id].append(pk)
    for topic_id, *row in course.families.order_by("pk").values_list(
        "topic_id", "pk", "live", "rehearsal", "latest", "latest__digest", "stopped"
    ):
        held[topic_id].append(row)
    pages: dict[int, list[object]] = defaultdict(list)
    sections = models.StudySection.objects.filter(topic__course=course).order_by("position")
    for topic_id, *words in sections.values_list("topic_id", "key", "title", "minutes"):
        pages[topic_id].append(words)
    digests = []
    for topic in course.topics.order_by("pk"):
        own = [topic.pk, topic.key, held[topic.pk], curves[topic.pk], pages[topic.pk]]
        digest = _digest(own)
        if digest != topic.digest:
            topic.digest = digest
            topic.save(update_fields=["digest"])
        digests.append(digest)
    course.digest = _digest([course.content, digests])
    course.save(update_fields=["digest"])


@transaction.atomic
def stop_family(family: models.Family, why: str, by: User, at: datetime) -> None:
    """Ask a question of nobody any more. Conflict for the last one of its topic, which would have
    no level then."""
    others = models.Family.objects.filter(topic=family.topic_id, live=True).exclude(pk=family.pk)
    if not others.exists():
        says = gettext("This is the only question of its topic, so it can’t be stopped.")
        raise Conflict(says, code="last_of_topic")
    models.StoppedFamily.objects.get_or_create(
        family=family, defaults={"why": why, "by": by, "at": at}
    )
    family.live = False
    family.save(update_fields=["live"])
    refresh_digest(family.course)


@transaction.atomic
def ask_family_again(family: models.Family) -> None:
    """Ask a question again that was stopped."""
    if models.StoppedFamily.objects.filter(family=family).delete()[0]:
        family.live = True
        family.save(update_fields=["live"])
        refresh_digest(family.course)


@transaction.atomic
def apply_curves(course: models.Course, curves: Sequence[models.FamilyCurve]) -> None:
    """Put parameters in force. The ones before stay with their dates."""
    models.FamilyCurve.objects.bulk_create(curves)
    refresh_digest(course)
