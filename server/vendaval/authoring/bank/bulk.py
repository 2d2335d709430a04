"""One change of many questions: all that can have it get it, and the others are named with why."""

from __future__ import annotations

import io
from dataclasses import dataclass
from zipfile import ZIP_DEFLATED, ZipFile

from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.families import read_text, refuse_own_tests
from vendaval.authoring.models import Draft
from vendaval.bank.actions import last_of_topic, refresh_digest, stop_families
from vendaval.bank.kept import family_path, text_of
from vendaval.bank.loading import load_families
from vendaval.bank.models import Course, Family, Topic
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.review.models import Miss
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval.threads.models import Thread
from vendaval_core.authoring.edits import rewritten
from vendaval_core.authoring.many import with_change
from vendaval_core.packs.families import PackFamily
from vendaval_core.packs.located import PackProblem, parse_yaml

from .bulk_schemas import BulkIn, BulkOut, UnchangedOut


@dataclass(slots=True)
class _Wanted:
    """A question and its changed file, read. refused: why it stays as it is instead."""

    row: Family
    topic: Topic
    read: PackFamily | None = None
    refused: str = ""


def change_many(course: Course, body: BulkIn, by: User) -> BulkOut:
    """Change questions of a course at once: published with a reason, or asked of nobody. Everything
    is read and checked before anything is locked."""
    rows = _rows(course, body.families)
    into = _topic(course, body.topic) if body.do == "topic" else None
    drafted = set(Draft.objects.filter(course=course).values_list("key", flat=True))
    found = [_checked(row, body, into, drafted) for row in rows]
    with transaction.atomic():
        Course.objects.select_for_update().get(pk=course.pk)
        _refuse_changed(rows)
        _store(found, body, by)
        changed = [one.row.key for one in found if not one.refused]
        if changed:
            refresh_digest(course)
            says = gettext("{many} published: {do}, {why}")
            told = says.format(many=", ".join(changed), do=body.do, why=body.why)
            audit(AuditKind.PUBLISHED, by=by, account=by, says=told)
    return BulkOut(
        changed=changed,
        left=[
            UnchangedOut(key=one.row.key, title=_title(one.row), why=one.refused)
            for one in found
            if one.refused
        ],
    )


def _rows(course: Course, keys: list[str]) -> list[Family]:
    found = (
        course.families.filter(key__in=keys, collection=None, rehearsal=False)
        .exclude(latest=None)
        .select_related("topic", "latest__source", "stopped")
        .order_by("topic", "key")
    )
    rows = list(found)
    if len(rows) < len(set(keys)):
        raise NotFound(gettext("This course doesn’t have one of these questions."))
    for row in rows:
        row.course = course
    return rows


def _topic(course: Course, key: str) -> Topic:
    found = course.topics.filter(key=key, closed=False).first()
    if found is None:
        raise NotFound(gettext("This course doesn’t have that topic."))
    return found


def _title(row: Family) -> str:
    return str((row.latest.data.model_dump() if row.latest else {}).get("title", row.key))


def _checked(row: Family, body: BulkIn, into: Topic | None, drafted: set[str]) -> _Wanted:
    wanted = _Wanted(row, into or row.topic)
    if row.key in drafted:
        wanted.refused = gettext("Somebody has a draft of it. Publish or discard that first.")
    elif into is not None and hasattr(row, "stopped"):
        wanted.refused = gettext("It is stopped.")
    elif body.do != "retire":
        _read(wanted, body)
    return wanted


def _read(wanted: _Wanted, body: BulkIn) -> None:
    """Read a question's changed file; nothing where it says so already."""
    row = wanted.row
    assert row.latest is not None, "others are left out"
    text = text_of(row.latest)
    parsed = parse_yaml(text, "")
    assert not isinstance(parsed, PackProblem), "it was published"
    assert body.do != "retire", "its file stays"
    data = with_change(
        parsed.data,
        body.do,
        topic=row.topic.key,
        into=wanted.topic.key,
        difficulty=body.difficulty or 0,
    )
    changed = rewritten(text, data)
    if changed == text and wanted.topic.pk == row.topic_id:
        return
    path = family_path(wanted.topic.key, row.key)
    read = read_text(row.course, wanted.topic, row.key, path, changed)
    wanted.read = read.read
    if read.read is None:
        wanted.refused = "; ".join(problem.what for problem in read.problems[:2])


def _refuse_changed(rows: list[Family]) -> None:
    """Nothing may have been published since it was read."""
    keys = {row.pk: (row.latest_id, row.topic_id) for row in rows}
    now = Family.objects.filter(pk__in=keys).values_list("pk", "latest", "topic")
    if {pk: (latest, topic) for pk, latest, topic in now} != keys:
        says = gettext("Somebody else published one of these meanwhile. Try again.")
        raise Conflict(says, code="changed_since")


def _store(found: list[_Wanted], body: BulkIn, by: User) -> None:
    going = [one for one in found if not one.refused]
    if body.do == "retire":
        stay = stop_families([one.row for one in going], body.why, by, clock.now()) if going else []
        for one in going:
            if one.row in stay:
                one.refused = gettext("It is the only question of its topic.")
        return
    for one in going:
        if one.read is None:
            continue
        if one.topic.pk != one.row.topic_id and last_of_topic(one.row):
            one.refused = gettext("It is the only question of its topic.")
            continue
        load_families(one.topic, {one.row.key: one.read}, clock.now(), by=by, why=body.why)
        for model in (Miss, Thread):
            model.objects.filter(family=one.row, topic=one.row.topic_id).update(topic=one.topic)


def files_of(course: Course, keys: list[str], person: User) -> bytes:
    """The files of questions as a ZIP archive, as they lie in the course's pack. Not for somebody
    who has one in a test of their own that is still open."""
    rows = _rows(course, keys)
    refuse_own_tests({row.pk for row in rows}, person)
    out = io.BytesIO()
    with ZipFile(out, "w", ZIP_DEFLATED) as made:
        for row in rows:
            assert row.latest is not None, "others are left out"
            made.writestr(family_path(row.topic.key, row.key), text_of(row.latest))
    return out.getvalue()
