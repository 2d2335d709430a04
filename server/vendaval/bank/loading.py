"""Loading a pack into the database: all of it or nothing."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from functools import partial

from django.db import transaction
from django.db.models import Count, ProtectedError
from django.utils.translation import gettext

from vendaval.people.models import School, User
from vendaval.shared import clock
from vendaval_core.items.drawn import Picture
from vendaval_core.packs.families import PackFamily
from vendaval_core.packs.located import PackInvalid, PackProblem
from vendaval_core.packs.reader import Pack
from vendaval_core.packs.schema import CourseModel
from vendaval_core.packs.study import StudySection

from . import models
from .actions import refresh_digest
from .digests import digest_of
from .kept import content_of, file_row
from .resources import load_resources


def load_families(
    topic: models.Topic,
    wanted: Mapping[str, PackFamily],
    at: datetime,
    *,
    rehearsal: bool = False,
    by: User | None = None,
    why: str = "",
    fresh: bool = False,
    collection: models.Collection | None = None,
) -> None:
    """Put families into a topic, in few queries: those that are new, that changed, that came from
    another topic or are live again. wanted: by key. rehearsal: whether they are only to be tried
    out. by, why: who changed them here, nobody for a pack's. fresh: as of a revision's source.
    collection: whose own they are, if they are new. PackInvalid where a pack has a key that a
    group's own question has."""
    rows = models.Family.objects.filter(course=topic.course, key__in=wanted)
    known = {row.key: row for row in rows.select_related("latest")}
    if by is None:
        _refuse_collected(known.values())
    pack = topic.pack if collection is None else ""
    models.Family.objects.bulk_create(
        models.Family(course=topic.course, key=key, topic=topic, pack=pack, collection=collection)
        for key in wanted
        if key not in known
    )
    known = {row.key: row for row in rows.select_related("latest")}
    digests = {key: digest_of(item.data) for key, item in wanted.items()}
    # Here a comment is a change too; a pack's that changes nothing else makes no revision.
    changed = [
        row
        for key, row in known.items()
        if row.latest is None or row.latest.digest != digests[key] or by is not None
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
            data=models.FamilyData.model_validate(wanted[row.key].data),
            digest=digests[row.key],
        )
        for row in changed
    )
    for row, revision in zip(changed, made, strict=True):
        row.latest = revision
    running = models.Trial.objects.filter(family__in=changed, ended_at=None)
    running.update(ended_at=at, verdict=models.Trial.STOPPED)
    stopped = set(models.StoppedFamily.objects.values_list("family", flat=True))
    for row in known.values():
        row.topic, row.live = topic, not rehearsal and row.pk not in stopped
        row.pack = topic.pack if row.collection_id is None else ""
        row.rehearsal = rehearsal
    fields = ["topic", "live", "rehearsal", "pack", "latest"]
    models.Family.objects.bulk_update(known.values(), fields)
    models.RevisionSource.objects.bulk_create(
        models.RevisionSource(
            revision=revision,
            text=wanted[revision.family.key].text,
            why=why,
            by=by,
            at=at,
            in_pack=by is None,
            fresh=fresh,
        )
        for revision in made
        if wanted[revision.family.key].text
    )
    if by is None:
        _note_texts(wanted, list(known.values()), at)


def _refuse_collected(rows: Iterable[models.Family]) -> None:
    """A pack's file must not change what a group wrote for itself."""
    says = gettext("a group’s own question has this key; call the file otherwise")
    problems = [
        PackProblem(f"topics/{row.topic.key}/{row.key}.yaml", 1, "", says)
        for row in rows
        if row.collection_id is not None
    ]
    if problems:
        raise PackInvalid(problems)


def _note_texts(
    wanted: Mapping[str, PackFamily], rows: Sequence[models.Family], at: datetime
) -> None:
    """Keep what the pack's files say now, where that made no revision."""
    latest = [row.latest_id for row in rows]
    known = {
        one.revision_id: one for one in models.RevisionSource.objects.filter(revision__in=latest)
    }
    new, changed = [], []
    for row in rows:
        text, source = wanted[row.key].text, known.get(row.latest_id or 0)
        if text and source is None and row.latest is not None:
            new.append(models.RevisionSource(revision=row.latest, text=text, at=at, in_pack=True))
        elif source is not None and text and (source.text != text or not source.in_pack):
            source.text, source.in_pack = text, True
            changed.append(source)
    models.RevisionSource.objects.bulk_create(new)
    models.RevisionSource.objects.bulk_update(changed, ["text", "in_pack"])


def _load_rehearsal(course: models.Course, pack: Pack, at: datetime) -> None:
    """The questions to try out, each in the topic that explains it."""
    topics = {topic.key: topic for topic in course.topics.order_by("pk")}
    wanted: dict[str, dict[str, PackFamily]] = defaultdict(dict)
    for item in pack.rehearsal:
        explained = item.family.study.rpartition("#")[0]
        topic = explained if explained in topics else next(iter(topics))
        wanted[topic][item.family.key] = item
    for key, families in wanted.items():
        load_families(topics[key], families, at, rehearsal=True)
    kept = {key for families in wanted.values() for key in families}
    gone = course.families.filter(pack=course.key, rehearsal=True).exclude(key__in=kept)
    gone.update(rehearsal=False)


def _picture(figure: Picture | None) -> models.PictureData | None:
    if figure is None:
        return None
    return models.PictureData.model_validate(asdict(figure))


def load_study(topic: models.Topic, sections: Sequence[StudySection]) -> None:
    """Give a topic the sections of its study page, and no others."""
    now = {section.id: section.markdown for section in sections}
    for trial in models.Trial.objects.filter(topic=topic, ended_at=None):
        if now.get(trial.section) != trial.first:
            trial.ended_at, trial.verdict = clock.now(), models.Trial.STOPPED
            trial.save(update_fields=["ended_at", "verdict"])
    topic.sections.exclude(key__in=now).delete()
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
    asked = course.families.filter(live=True, collection=None)
    for topic in course.topics.exclude(families=None).exclude(pk__in=asked.values("topic")):
        what = gettext("“{topic}” has no question any more").format(topic=topic.key)
        problems.append(PackProblem("course.yaml", 1, "subjects", what))
    if problems:
        raise PackInvalid(problems)


@transaction.atomic
def load_pack(pack: Pack) -> models.Course:
    """Store a checked pack. A family that changed gets a new revision; one that is gone is no
    longer live, its history stays. PackInvalid, and nothing changed, when a topic that learners
    have levels in is gone."""
    source, now = pack.course, clock.now()
    families = {item.family.key: item for item in pack.families}
    content = digest_of(
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
            "content": content,
            "rehearsal": source.rehearsal if pack.rehearsal else None,
            **_described(source),
        },
    )
    load_structure(course, source)
    for topic in course.topics.all():
        if topic.key not in pack.study:
            continue
        load_study(topic, pack.study[topic.key])
        load_resources(topic, pack.resources.get(topic.key, ()), partial(pack.beside, topic.key))
        of_topic = [one for one in pack.families if one.family.topic == topic.key]
        load_families(topic, {one.family.key: one for one in of_topic}, now)
    _note_files(course, pack, now)
    _load_rehearsal(course, pack, now)
    gone = course.families.filter(pack=source.key).exclude(key__in=families)
    models.StoppedFamily.objects.filter(family__in=gone).delete()
    gone.update(live=False)
    _take_out_topics(course, {t.key for s in source.subjects for t in s.topics})
    take_out_subjects(course, [subject.key for subject in source.subjects])
    refresh_digest(course)
    return course


def _described(source: CourseModel) -> dict[str, object]:
    """What course.yaml says of the course itself."""
    return {
        "title": source.title,
        "open_to_all": source.open_to_all,
        "school": School.objects.get_or_create(name=source.school)[0],
        "prior": models.PriorData.model_validate(source.prior.model_dump()),
    }


def load_structure(course: models.Course, source: CourseModel) -> None:
    """Give a course the subjects and topics of its course.yaml; those that are gone stay."""
    for s, subject_source in enumerate(source.subjects):
        subject, _ = course.subjects.update_or_create(
            key=subject_source.key, defaults={"title": subject_source.title, "position": s}
        )
        for t, topic_source in enumerate(subject_source.topics):
            course.topics.update_or_create(
                key=topic_source.key,
                defaults={
                    "subject": subject,
                    "title": topic_source.title,
                    "position": t,
                    "target": topic_source.target,
                    "importance": topic_source.importance,
                    "after": topic_source.after,
                    "closed": topic_source.closed,
                    "pack": source.key,
                },
            )


def take_out_subjects(course: models.Course, kept: Collection[str]) -> None:
    """Delete subjects that are gone and have no topic."""
    course.subjects.exclude(key__in=kept).filter(topics=None).delete()


def _note_files(course: models.Course, pack: Pack, at: datetime) -> None:
    """Keep the pack's other files as they are now."""
    rows = models.CourseFile.objects.filter(course=course).order_by("pk")
    newest = {row.path: row for row in rows}
    new = []
    for path, file in pack.files.items():
        content, row = file.read_bytes(), newest.get(path)
        if row is None or row.gone or not row.in_pack or content_of(row) != content:
            new.append(file_row(course, path, content, at))
    new += [
        models.CourseFile(course=course, path=path, gone=True, at=at, in_pack=True)
        for path, row in newest.items()
        if pack.files and path not in pack.files and not row.gone
    ]
    models.CourseFile.objects.bulk_create(new)
