"""One change of many questions: all that can have it get it, and the others are named with why."""

from __future__ import annotations

import io
from zipfile import ZIP_DEFLATED, ZipFile

from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.families import read_text, refuse_own_tests
from vendaval.authoring.models import Draft
from vendaval.bank.actions import last_of_topic, refresh_digest, stop_family
from vendaval.bank.kept import family_path, text_of
from vendaval.bank.loading import load_families
from vendaval.bank.models import Course, Family, StoppedFamily, Topic
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.review.models import Miss
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval.threads.models import Thread
from vendaval_core.authoring.edits import rewritten
from vendaval_core.authoring.moving import study_from
from vendaval_core.packs.located import parse_yaml

from .bulk_schemas import BulkIn, BulkOut, UnchangedOut

Refusal = str


def change_many(course: Course, body: BulkIn, by: User) -> BulkOut:
    """Change questions of a course at once: published with a reason, or asked of nobody."""
    rows = _rows(course, body.families)
    into = _topic(course, body.topic) if body.do == "topic" else None
    changed: list[str] = []
    left: list[UnchangedOut] = []
    with transaction.atomic():
        Course.objects.select_for_update().get(pk=course.pk)
        for row in rows:
            says = _refusal(row, body, into)
            if not says and body.do == "retire":
                says = _retired(row, body.why, by)
            elif not says:
                says = _published(row, body, into, by)
            if says:
                left.append(UnchangedOut(key=row.key, title=_title(row), why=says))
            else:
                changed.append(row.key)
        if changed:
            refresh_digest(course)
            what = gettext("{many} published: {do}, {why}")
            told = what.format(many=", ".join(changed)[:400], do=body.do, why=body.why)
            audit(AuditKind.PUBLISHED, by=by, account=by, says=told)
    return BulkOut(changed=changed, left=left)


def _rows(course: Course, keys: list[str]) -> list[Family]:
    found = (
        course.families.filter(key__in=keys, collection=None, rehearsal=False)
        .exclude(latest=None)
        .select_related("topic", "latest__source")
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


def _refusal(row: Family, body: BulkIn, into: Topic | None) -> Refusal:
    if Draft.objects.filter(course=row.course, key=row.key).exists():
        return gettext("Somebody has a draft of it. Publish or discard that first.")
    if into is None:
        return ""
    if StoppedFamily.objects.filter(family=row).exists():
        return gettext("It is stopped.")
    if into.pk != row.topic_id and last_of_topic(row):
        return gettext("It is the only question of its topic.")
    return ""


def _retired(row: Family, why: str, by: User) -> Refusal:
    try:
        stop_family(row, why, by, clock.now())
    except Conflict as error:
        return str(error)
    return ""


def _published(row: Family, body: BulkIn, into: Topic | None, by: User) -> Refusal:
    """Put the changed file in force; nothing where it says so already."""
    assert row.latest is not None, "others are left out"
    topic, text = into or row.topic, text_of(row.latest)
    wanted = rewritten(text, _wanted(text, row, body, topic))
    if wanted == text and topic.pk == row.topic_id:
        return ""
    path = family_path(topic.key, row.key)
    read = read_text(row.course, topic, row.key, path, wanted)
    if read.read is None:
        return "; ".join(problem.what for problem in read.problems[:2])
    load_families(topic, {row.key: read.read}, clock.now(), by=by, why=body.why)
    for model in (Miss, Thread):
        model.objects.filter(family=row, topic=row.topic_id).update(topic=topic)
    return ""


def _wanted(text: str, row: Family, body: BulkIn, topic: Topic) -> dict[str, object]:
    found = parse_yaml(text, "")
    data: dict[str, object] = dict(getattr(found, "data", {}))
    match body.do:
        case "essential":
            return data | {"essential": True}
        case "not_essential":
            return {key: value for key, value in data.items() if key != "essential"}
        case "difficulty":
            return data | {"difficulty": body.difficulty}
        case _:
            study = study_from(str(data.get("study", "")), row.topic.key, topic.key)
            return data | {"study": study}


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
