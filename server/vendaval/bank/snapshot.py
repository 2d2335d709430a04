"""A course in the form the core works with: a snapshot of each topic, put together by course.

A topic's snapshot is made once for each content of its own, so that a change in one topic reads
no other again. All caches are bounded.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache

from django.utils.translation import gettext

from vendaval.shared.errors import NotFound
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version, make_version
from vendaval_core.measure.journal import MODEL
from vendaval_core.measure.level import LevelScale
from vendaval_core.measure.posterior import Prior
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.measure.selection import FamilyTable
from vendaval_core.measure.trials import gets_second
from vendaval_core.packs.families import family_from_data
from vendaval_core.scoring.fixed import fixed_parts
from vendaval_core.scoring.outcomes import family_curve

from . import models
from .fresh import fresh_since

COURSES, TOPICS = 8, 400
FAMILIES, VERSIONS = 4096, 4096


@dataclass(frozen=True, slots=True)
class BankSection:
    key: str
    title: str
    minutes: int


@dataclass(frozen=True, slots=True)
class BankTopic:
    """A topic with its number in the course, counted from 0."""

    id: int
    number: int
    key: str
    title: str
    subject: str
    target: float
    importance: float
    after: tuple[str, ...]
    sections: tuple[BankSection, ...]


@dataclass(frozen=True, slots=True)
class SecondText:
    """A question with the second text of a trial that goes on."""

    trial: int
    revision: models.FamilyRevision


@dataclass(frozen=True, slots=True)
class BankFamily:
    id: int
    revision: models.FamilyRevision
    family: Family
    curve: ResponseCurve
    topic: int
    title: str
    """As lists show it: that of its first version."""
    second: SecondText | None = None
    collection: int | None = None

    def revision_for(self, learner: int) -> models.FamilyRevision:
        """The revision that a learner gets, by the seed of their own draws: the one in force, or
        in a trial the one with the second text."""
        if self.second is not None and gets_second(self.second.trial, learner):
            return self.second.revision
        return self.revision


@dataclass(frozen=True, slots=True)
class PastFamily:
    """What the log needs to know of a family, live or not: topic number and curve in force.

    mark: of the curve and the topic, so that a state knows by which ones it was made.
    """

    key: str
    topic: int
    curve: ResponseCurve
    mark: str


@dataclass(frozen=True, slots=True)
class CourseBank:
    """A course's live content. subjects: (key, title) in order.

    families: live ones, those of collections too, which the table and the scales leave out.
    rehearsed: those only to be tried out. stopped: those that somebody stopped, which stay where
    they were asked before. past: every family that was ever loaded, by id. base:
    digest of prior and topics, on which every state depends; curves are held against each family
    that a learner has answered.
    """

    course_id: int
    digest: str
    title: str
    subjects: tuple[tuple[str, str], ...]
    topics: tuple[BankTopic, ...]
    families: dict[str, BankFamily]
    rehearsed: dict[str, BankFamily]
    stopped: dict[str, BankFamily]
    table: FamilyTable
    scales: tuple[LevelScale, ...]
    prior: Prior
    past: dict[int, PastFamily]
    marks: dict[str, str]
    base: str

    def topic(self, key: str) -> BankTopic:
        """The topic of a key, or NotFound."""
        found = next((topic for topic in self.topics if topic.key == key), None)
        if found is None:
            raise NotFound(gettext("This course doesn’t have that topic."))
        return found

    def collected(self, collections: Collection[int]) -> list[BankFamily]:
        """Live families of these collections, by title."""
        found = [one for one in self.families.values() if one.collection in collections]
        return sorted(found, key=lambda one: (one.title, one.family.key))

    def known(self, key: str) -> BankFamily | None:
        """A family that may be answered: live, only to be tried out, or stopped since it was
        asked."""
        return self.families.get(key) or self.rehearsed.get(key) or self.stopped.get(key)

    def of_topic(self, number: int) -> list[BankFamily]:
        """Live families of a topic."""
        return [self.families[self.table.keys[row]] for row in self.table.of_topic(number)]

    def mean_seconds(self, number: int) -> float:
        """Mean time in seconds that a question of a topic needs."""
        times = [item.family.seconds for item in self.of_topic(number)]
        return sum(times) / len(times)

    def topics_of(self, keys: Sequence[str]) -> list[BankTopic]:
        """The topics of these keys that are still in the course."""
        found = {topic.key: topic for topic in self.topics}
        return [found[key] for key in keys if key in found]

    def section(self, study: str, own: str) -> tuple[BankTopic, BankSection]:
        """The study section that a family of the topic `own` points to: "topic#section" or a
        section of its own topic. The first of its topic when that one has gone."""
        topic_key, _, section_key = study.rpartition("#")
        return self.section_of(topic_key, section_key, own)

    def explains(self, topic: str, section: str, family: Family) -> bool:
        """Whether a study section, by its topic's key and its own, is the one for a family."""
        place, part = self.section(family.study, family.topic)
        return (place.key, part.key) == (topic, section)

    def section_of(
        self, topic_key: str, section_key: str, own: str
    ) -> tuple[BankTopic, BankSection]:
        """A section by its topic's key, which may be empty for the topic `own`, and its own."""
        pointed = self.topics_of([topic_key])
        topic = pointed[0] if pointed else self.topic(own)
        found = next((s for s in topic.sections if s.key == section_key), None)
        return topic, found or topic.sections[0]


def curve_of(first: Version, difficulty: int, applied: models.FamilyCurve | None) -> ResponseCurve:
    """A family's curve: as applied, while it still has as many outcomes, or as judged. first: its
    first version."""
    own = family_curve(first, difficulty)
    if applied is None:
        return own
    curve = ResponseCurve(applied.a, applied.b, applied.c, tuple(applied.steps))
    return curve if curve.categories == own.categories else own


def curve_mark(curve: ResponseCurve, topic: str) -> str:
    """A short mark of a curve and its topic's key, the same for the same ones."""
    return hashlib.sha256(f"{topic} {curve!r}".encode()).hexdigest()[:12]


@dataclass(frozen=True, slots=True)
class _TopicContent:
    """One topic on its own: (row, family, curve, title) of every family that ever was in it."""

    families: tuple[tuple[models.Family, Family, ResponseCurve, str], ...]
    seconds: dict[int, SecondText]
    sections: tuple[BankSection, ...]


@lru_cache(maxsize=TOPICS)
def _topic_content(topic_id: int, digest: str) -> _TopicContent:
    topic = models.Topic.objects.get(pk=topic_id)
    rows = models.FamilyCurve.objects.filter(family__topic=topic).order_by("pk")
    fresh = fresh_since(topic=topic)
    applied = {
        row.family_id: row
        for row in rows
        if row.family_id not in fresh or row.applied_at >= fresh[row.family_id].at
    }
    found = []
    for row in topic.families.select_related("latest", "stopped").order_by("key"):
        assert row.latest is not None
        row.topic, row.latest.family = topic, row
        family = _family(row.latest.digest, row.latest.pk, row.key, topic.key)
        first = make_version(family, 1)
        curve = curve_of(first, family.difficulty, applied.get(row.pk))
        found.append((row, family, curve, first.title))
    sections = topic.sections.order_by("position")
    running = models.Trial.objects.filter(family__topic=topic, ended_at=None)
    seconds = {}
    for trial in running.select_related("revision__family__topic"):
        if trial.family_id is not None and trial.revision is not None:
            seconds[trial.family_id] = SecondText(trial.pk, trial.revision)
    return _TopicContent(
        tuple(found),
        seconds,
        tuple(BankSection(s.key, s.title, s.minutes) for s in sections),
    )


@lru_cache(maxsize=COURSES)
def _built(course_id: int, digest: str) -> CourseBank:
    course = models.Course.objects.get(pk=course_id)
    subjects = tuple(course.subjects.order_by("position").values_list("key", "title"))
    rows = course.topics.filter(closed=False).select_related("subject")
    rows = rows.order_by("subject__position", "position")
    # A topic that nobody has written a question for is none to its learners yet.
    all_of_it = [(row, _topic_content(row.pk, row.digest)) for row in rows]
    asked = [
        one
        for one in all_of_it
        if any(kept.live and kept.collection_id is None for kept, *_ in one[1].families)
    ]
    contents = [content for _, content in asked]
    topics = tuple(
        BankTopic(
            row.pk,
            number,
            row.key,
            row.title,
            row.subject.key,
            row.target,
            row.importance,
            tuple(row.after),
            content.sections,
        )
        for number, (row, content) in enumerate(asked)
    )
    families: dict[str, BankFamily] = {}
    rehearsed: dict[str, BankFamily] = {}
    stopped: dict[str, BankFamily] = {}
    past: dict[int, PastFamily] = {}
    for number, content in enumerate(contents):
        for kept, family, curve, title in content.families:
            past[kept.pk] = PastFamily(
                kept.key, number, curve, curve_mark(curve, topics[number].key)
            )
            halted = hasattr(kept, "stopped")
            if kept.latest is not None and (kept.live or kept.rehearsal or halted):
                into = families if kept.live else stopped if halted else rehearsed
                second = content.seconds.get(kept.pk)
                into[kept.key] = BankFamily(
                    kept.pk,
                    kept.latest,
                    family,
                    curve,
                    number,
                    title,
                    second,
                    kept.collection_id,
                )
    families, rehearsed = dict(sorted(families.items())), dict(sorted(rehearsed.items()))
    counting = [(k, f.topic, f.curve) for k, f in families.items() if f.collection is None]
    table = FamilyTable.of(counting, len(topics))
    scales = tuple(
        LevelScale.of([families[table.keys[row]].curve for row in table.of_topic(topic.number)])
        for topic in topics
    )
    order = [key for key, _ in subjects]
    prior = Prior.of_course(
        [order.index(topic.subject) for topic in topics],
        mean=course.prior.mean,
        sd=course.prior.sd,
        within=course.prior.within_subject,
        across=course.prior.across_subjects,
    )
    based = [MODEL, course.prior.model_dump(), [(t.subject, t.key) for t in topics]]
    base = hashlib.sha256(json.dumps(based, sort_keys=True).encode()).hexdigest()
    return CourseBank(
        course_id,
        digest,
        course.title,
        subjects,
        topics,
        families,
        rehearsed,
        stopped,
        table,
        scales,
        prior,
        past,
        {family.key: family.mark for family in past.values()},
        base,
    )


def course_bank(course: models.Course) -> CourseBank:
    """The snapshot of a course's present content."""
    return _built(course.pk, course.digest)


@lru_cache(maxsize=FAMILIES)
def _family(digest: str, revision: int, key: str, topic: str) -> Family:
    data = models.FamilyRevision.objects.only("data").get(pk=revision).data
    return family_from_data(key, topic, data.model_dump(mode="json"))


def family_of(revision: models.FamilyRevision) -> Family:
    """The family as a revision has it."""
    row = revision.family
    return _family(revision.digest, revision.pk, row.key, row.topic.key)


@lru_cache(maxsize=FAMILIES)
def _fixed_parts(digest: str, revision: int, key: str, topic: str) -> frozenset[str]:
    return fixed_parts(_family(digest, revision, key, topic))


def fixed_parts_of(revision: models.FamilyRevision) -> frozenset[str]:
    """Return the parts of a family whose right answer is the same in every version."""
    row = revision.family
    return _fixed_parts(revision.digest, revision.pk, row.key, row.topic.key)


@lru_cache(maxsize=VERSIONS)
def _version(digest: str, revision: int, key: str, topic: str, seed: int, order: int) -> Version:
    return make_version(_family(digest, revision, key, topic), seed, order)


def version_of(revision: models.FamilyRevision, seed: int, order: int) -> Version:
    """The version of a revision for a seed, made again from what is stored."""
    row = revision.family
    return _version(revision.digest, revision.pk, row.key, row.topic.key, seed, order)
