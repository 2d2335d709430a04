"""A course in the form the core works with, made once per content digest and process."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from vendaval.shared.errors import NotFound
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version, make_version
from vendaval_core.measure.level import LevelScale
from vendaval_core.measure.posterior import Prior
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.measure.selection import FamilyTable
from vendaval_core.packs.reader import family_from_data
from vendaval_core.scoring.outcomes import family_curve

from . import models


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
class BankFamily:
    id: int
    revision: models.FamilyRevision
    family: Family
    curve: ResponseCurve
    topic: int


@dataclass(frozen=True, slots=True)
class PastFamily:
    """What the log needs to know of a family, live or not: topic number and curve in force."""

    key: str
    topic: int
    curve: ResponseCurve


@dataclass(frozen=True, slots=True)
class CourseBank:
    """A course's live content. subjects: (key, title) in order.

    past: every family that was ever loaded, by id. measure: digest of all that a learner's state
    depends on beside their log: prior, topics and curves.
    """

    course_id: int
    digest: str
    title: str
    subjects: tuple[tuple[str, str], ...]
    topics: tuple[BankTopic, ...]
    families: dict[str, BankFamily]
    table: FamilyTable
    scales: tuple[LevelScale, ...]
    prior: Prior
    past: dict[int, PastFamily]
    measure: str

    def topic(self, key: str) -> BankTopic:
        """The topic of a key, or NotFound."""
        found = next((topic for topic in self.topics if topic.key == key), None)
        if found is None:
            raise NotFound("There is no such topic in this course.")
        return found

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
        pointed = self.topics_of([topic_key])
        topic = pointed[0] if pointed else self.topic(own)
        found = next((s for s in topic.sections if s.key == section_key), None)
        return topic, found or topic.sections[0]


def judged(family: Family) -> ResponseCurve:
    """A family's response curve as its author judges it."""
    return family_curve(make_version(family, 1), family.difficulty)


def curves_in_force(course: models.Course) -> dict[int, models.FamilyCurve]:
    """The latest applied parameters by family id."""
    rows = models.FamilyCurve.objects.filter(family__course=course).order_by("pk")
    return {row.family_id: row for row in rows}


def curve_of(family: Family, applied: models.FamilyCurve | None) -> ResponseCurve:
    """A family's curve: as applied, while it still has as many outcomes, or as judged."""
    own = judged(family)
    if applied is None:
        return own
    curve = ResponseCurve(applied.a, applied.b, applied.c, tuple(applied.steps))
    return curve if curve.categories == own.categories else own


_families: dict[tuple[str, int], Family] = {}


@lru_cache(maxsize=8)
def _built(course_id: int, digest: str) -> CourseBank:
    course = models.Course.objects.get(pk=course_id)
    subjects = tuple(course.subjects.order_by("position").values_list("key", "title"))
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
            tuple(
                BankSection(s.key, s.title, s.minutes)
                for s in sorted(row.sections.all(), key=lambda s: s.position)
            ),
        )
        for number, row in enumerate(
            course.topics.select_related("subject")
            .prefetch_related("sections")
            .order_by("subject__position", "position")
        )
    )
    numbers = {topic.id: topic.number for topic in topics}
    families: dict[str, BankFamily] = {}
    past: dict[int, PastFamily] = {}
    applied = curves_in_force(course)
    for row in course.families.select_related("latest", "topic").order_by("key"):
        assert row.latest is not None
        family = family_from_data(row.key, row.topic.key, row.latest.data)
        _families[row.latest.digest, row.latest.pk] = family
        number = numbers[row.topic_id]
        curve = curve_of(family, applied.get(row.pk))
        past[row.pk] = PastFamily(row.key, number, curve)
        if row.live:
            families[row.key] = BankFamily(row.pk, row.latest, family, curve, number)
    table = FamilyTable.of([(k, f.topic, f.curve) for k, f in families.items()], len(topics))
    scales = tuple(
        LevelScale.of([families[table.keys[row]].curve for row in table.of_topic(topic.number)])
        for topic in topics
    )
    order = [key for key, _ in subjects]
    prior = Prior.of_course(
        [order.index(topic.subject) for topic in topics],
        mean=course.prior["mean"],
        sd=course.prior["sd"],
        within=course.prior["within_subject"],
        across=course.prior["across_subjects"],
    )
    measured = [course.prior, [t.key for t in topics], [repr(past[pk]) for pk in sorted(past)]]
    measure = hashlib.sha256(json.dumps(measured, sort_keys=True).encode()).hexdigest()
    return CourseBank(
        course_id,
        digest,
        course.title,
        subjects,
        topics,
        families,
        table,
        scales,
        prior,
        past,
        measure,
    )


def course_bank(course: models.Course) -> CourseBank:
    """The snapshot of a course's present content."""
    return _built(course.pk, course.digest)


def _family(digest: str, revision: int) -> Family:
    """A revision's family; those of the live bank are there already."""
    found = _families.get((digest, revision))
    if found is None:
        row = models.FamilyRevision.objects.select_related("family__topic").get(pk=revision)
        found = _families[digest, revision] = family_from_data(
            row.family.key, row.family.topic.key, row.data
        )
    return found


def family_of(revision: models.FamilyRevision) -> Family:
    """The family as a revision has it."""
    return _family(revision.digest, revision.pk)


@lru_cache(maxsize=4096)
def _version(digest: str, revision: int, seed: int, order: int) -> Version:
    return make_version(_family(digest, revision), seed, order)


def version_of(revision: models.FamilyRevision, seed: int, order: int) -> Version:
    """The version of a revision for a seed, made again from what is stored."""
    return _version(revision.digest, revision.pk, seed, order)
