"""A course's questions as a package of QTI 3, written in the background."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import timedelta

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db.models import QuerySet
from django.utils.translation import gettext

from vendaval.authoring.families import refuse_own_tests
from vendaval.bank.models import Course, Family, FamilyCurve, Topic
from vendaval.exams.models import Test
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.exchange.archive import packed
from vendaval_core.exchange.qti.package_out import (
    FamilyToWrite,
    ItemsOf,
    PackageWritten,
    TestToWrite,
    package_written,
)
from vendaval_core.exchange.qti.test_out import companions_of, seeds_of, written_test
from vendaval_core.items.versions import make_version
from vendaval_core.packs.families import PackFamily, family_from_data, with_lists

from .models import Export, ExportState

MOST_EXPORTS, MOST_ITEMS, MOST_BYTES = 10, 6_000, 200_000_000
EACH = 10


def begin_export(
    course: Course, topic_key: str, versions: int, by: User, test_id: int | None = None
) -> Export:
    """Have a package written soon. topic_key: of one topic alone, "" for the whole course. test_id:
    of a test with its questions instead."""
    test = None if test_id is None else Test.objects.filter(course=course, pk=test_id).first()
    if test_id is not None and test is None:
        raise NotFound(gettext("This course doesn’t have that test."))
    topic = Topic.objects.filter(course=course, key=topic_key).first() if topic_key else None
    if topic_key and topic is None:
        raise NotFound(gettext("This course doesn’t have that topic."))
    lately = clock.now() - timedelta(hours=1)
    writing = Export.objects.filter(course=course, state=ExportState.WRITING, at__gt=lately)
    if writing.count() >= MOST_EXPORTS // 2:
        raise Conflict(gettext("Other packages are still being written. Wait for those."))
    found = families_of(course, topic, test)
    refuse_own_tests(set(found.values_list("pk", flat=True)), by)
    made = Export.objects.create(
        course=course,
        by=by,
        at=clock.now(),
        topic=topic,
        test=test,
        versions=versions,
        state=ExportState.WRITING,
        many=found.count(),
    )
    for one in Export.objects.filter(course=course).order_by("-pk")[MOST_EXPORTS:]:
        drop(one)
    return made


def families_of(course: Course, topic: Topic | None, test: Test | None = None) -> QuerySet[Family]:
    """The questions that a package has: those that learners are asked, or those of a test."""
    if test is not None:
        sections = test.composition.core().sections
        keys = {key for one in sections for entry in one.entries for key in entry.families}
        return Family.objects.filter(course=course, key__in=keys).exclude(latest=None)
    rows = Family.objects.filter(course=course, live=True, collection=None).exclude(latest=None)
    return rows if topic is None else rows.filter(topic=topic)


def export_of(course: Course, number: int, person: User) -> Export:
    """A package of a course. Not for somebody who has a question of it in a test of their own that
    is still open."""
    found = Export.objects.filter(course=course, pk=number).select_related("topic", "test").first()
    if found is None:
        raise NotFound(gettext("This course has no such package."))
    # Also of questions that were stopped, or moved, since it was written.
    every = Family.objects.filter(course=course)
    refuse_own_tests(set(every.values_list("pk", flat=True)), person)
    return found


def drop(one: Export) -> None:
    """Forget a package and its file."""
    stored = one.stored
    one.delete()
    if stored and not Export.objects.filter(stored=stored).exists():
        default_storage.delete(stored)


def write(of: Export) -> None:
    """Write a package, and say how far it is."""

    def told(count: int) -> None:
        if count % EACH == 0 or count == of.many:
            Export.objects.filter(pk=of.pk).update(done=count)

    content, lost = package_of(of.course, of.topic, of.versions, told, of.test)
    if len(content) > MOST_BYTES:
        says = gettext("It would be larger than {most} MB. Choose a topic, or fewer versions.")
        why = says.format(most=MOST_BYTES // 1_000_000)
        Export.objects.filter(pk=of.pk).update(state=ExportState.FAILED, why=why)
        return
    stored = f"exports/{hashlib.sha256(content).hexdigest()}.zip"
    if not default_storage.exists(stored):
        default_storage.save(stored, ContentFile(content))
    Export.objects.filter(pk=of.pk).update(state=ExportState.DONE, stored=stored, lost=lost)


def package_of(
    course: Course,
    topic: Topic | None,
    versions: int,
    told: Callable[[int], None],
    test: Test | None = None,
) -> tuple[bytes, list[tuple[str, str, list[str]]]]:
    """A package's bytes, and [key, title, what other programs don't know] of its questions."""
    found = list(families_of(course, topic, test).select_related("topic", "latest__source"))
    found.sort(key=lambda one: (one.topic.position, one.key))
    most = max(1, MOST_ITEMS // max(1, len(found)))
    families = list(_to_write(found, min(versions, most)))
    title = course.title if topic is None else f"{course.title}: {topic.title}"
    if test is None:
        made = package_written(title, families, told=told)
    else:
        made = _with_test(test, families, told)
    titles = {one.read.family.key: one.read.family.title for one in families}
    lost = [(key, titles[key], list(what)) for key, what in made.lost.items() if what]
    return packed(made.files, digests=False), lost


def _with_test(
    test: Test, families: list[FamilyToWrite], told: Callable[[int], None]
) -> PackageWritten:
    """A test with its questions: in the version that everybody gets, or in several."""
    composition, rules = test.composition.core(), test.rules.core()
    if composition.same_versions:
        counts = {one.read.family.key: one.read.family.versions for one in families}
        seeds = seeds_of(composition, counts)
        families = [
            replace(one, versions=[make_version(one.read.family, seeds[one.read.family.key])])
            for one in families
        ]
    directions = [section.directions for section in test.composition.sections]

    def tests(items: ItemsOf) -> list[TestToWrite]:
        return [
            written_test(
                f"test_{test.pk}",
                test.title,
                test.directions,
                composition,
                rules,
                items,
                directions,
            )
        ]

    companions = companions_of(rules.tools)
    return package_written(test.title, families, tests, companions=companions, told=told)


def _to_write(found: list[Family], versions: int) -> Iterator[FamilyToWrite]:
    newest: dict[int, FamilyCurve] = {}
    rows = FamilyCurve.objects.filter(family__in=found).order_by("pk")
    for row in rows:
        newest[row.family_id] = row
    for one in found:
        assert one.latest is not None, "the query asks for those that have one"
        data = with_lists(one.latest.data.model_dump(mode="json", exclude_defaults=True))
        assert isinstance(data, dict)
        family = family_from_data(one.key, one.topic.key, data)
        made = [make_version(family, seed) for seed in range(1, min(versions, family.versions) + 1)]
        curve = newest.get(one.pk)
        told = {} if curve is None else _curve(curve)
        yield FamilyToWrite(PackFamily(family, data), made, one.topic.title, told)


def _curve(row: FamilyCurve) -> dict[str, str]:
    steps = " ".join(repr(step) for step in row.steps)
    plain = {"a": repr(row.a), "b": repr(row.b), "c": repr(row.c), "answers": str(row.answers)}
    return {**plain, **({"steps": steps} if steps else {})}
