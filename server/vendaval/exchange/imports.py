"""Imports: begun, corrected, taken into the course in one go, and taken back in one go."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import replace

from django.core.files.storage import default_storage
from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.drafts import MOST_DRAFTS
from vendaval.authoring.families import refuse_own_tests
from vendaval.authoring.models import Draft
from vendaval.bank.actions import refresh_digest, stop_families
from vendaval.bank.kept import family_path, text_of, topic_files
from vendaval.bank.loading import load_families
from vendaval.bank.models import Course, Family, Topic
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.editing import editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.work.models import Presentation
from vendaval_core.authoring.keys import free_key
from vendaval_core.exchange.sheet_columns import Sheet
from vendaval_core.packs.families import FamilyRead, PackFamily, read_family

from . import qti_in, qti_tests
from .models import Import, ImportKind, ImportRow, ImportState
from .qti_rows import item_cells
from .reading import Looker
from .schemas import ImportRowEdit, ImportRowIn, StoreImportIn

MOST_IMPORTS = 20
AT_ONCE = 20


def begin(course: Course, name: str, sheet: Sheet, by: User) -> Import:
    """Keep what a file has, to be looked through."""
    with transaction.atomic():
        made = Import.objects.create(
            course=course,
            by=by,
            name=name,
            at=clock.now(),
            state=ImportState.LOOKING,
            unread=list(sheet.unread)[:40],
        )
        ImportRow.objects.bulk_create(
            ImportRow(of=made, line=row.line, cells=dict(row.cells)) for row in sheet.rows
        )
    drop_old(course)
    return made


def drop_old(course: Course) -> None:
    """Keep the newest imports of a course, and the archives of those alone."""
    old = Import.objects.filter(course=course).exclude(state=ImportState.STORING)
    for one in old.order_by("-pk")[MOST_IMPORTS:]:
        one.delete()
        if one.stored and not Import.objects.filter(stored=one.stored).exists():
            default_storage.delete(one.stored)


def import_of(course: Course, number: int, person: User) -> Import:
    """An import of a course, or NotFound. Not for somebody who has a question that it brought in a
    test of their own that is still open."""
    found = Import.objects.filter(course=course, pk=number).select_related("topic", "by").first()
    if found is None:
        raise NotFound(gettext("This course has no such import."))
    found.course = course
    keys = found.rows.exclude(key="").values("key")
    brought = Family.objects.filter(course=course, key__in=keys)
    refuse_own_tests(set(brought.values_list("pk", flat=True)), person)
    return found


def look_through(of: Import) -> None:
    """Look through every row, and say how far it is."""
    if of.kind == ImportKind.QTI and of.rows.filter(item__identifier__isnull=True).exists():
        qti_in.read_items(of)
        qti_tests.read_tests(of)
    else:
        _look_again(of)
    Import.objects.filter(pk=of.pk, state=ImportState.LOOKING).update(state=ImportState.READY)


def _look_again(of: Import) -> None:
    looker, rows = Looker(of), list(of.rows.order_by("line"))
    for start in range(0, len(rows), AT_ONCE):
        part = rows[start : start + AT_ONCE]
        replacing = qti_in.Replacing(of, part)
        for row in part:
            _look(looker, replacing, row)
        ImportRow.objects.bulk_update(part, qti_in.FOUND)
        Import.objects.filter(pk=of.pk).update(done=start + len(part))


def _look(looker: Looker, replacing: qti_in.Replacing, row: ImportRow) -> FamilyRead | None:
    """Look at a row; also whether the question that it replaces can be."""
    read = looker.look(row)
    if row.item and not row.skip and (why := replacing.problem(row)):
        row.problems.append(["replaces", why])
        return None
    return read


def change_row(of: Import, line: int, body: ImportRowIn) -> ImportRow:
    """Give a question other words, or leave it out. Changed if somebody else did meanwhile."""
    _refuse_unready(of)
    row = of.rows.filter(line=line).first()
    if row is None:
        raise NotFound(gettext("There is no such question in this file."))
    looker = Looker(of)
    with editing(row, body, lambda: row_edit(row)):
        typed = {name: text.strip() for name, text in body.cells.items() if text.strip()}
        row.cells = item_cells(row, typed) if row.item else typed
        row.skip = body.skip
        _look(looker, qti_in.Replacing(of, [row]), row)
        row.save()
    return row


def row_edit(row: ImportRow) -> ImportRowEdit:
    """What of a question can be edited."""
    return ImportRowEdit.model_construct(cells=row.cells, skip=row.skip)


def set_topic(of: Import, key: str, words: str = "") -> None:
    """The topic of questions that name none, or of those whose file says these words for it; they
    are looked through again."""
    _refuse_unready(of)
    topic = Topic.objects.filter(course=of.course, key=key).first()
    if key and topic is None:
        raise NotFound(gettext("This course doesn’t have that topic."))
    if words:
        with transaction.atomic():
            rows = [
                row for row in of.rows.select_for_update() if words in row.item.get("topics", [])
            ]
            for row in rows:
                row.cells = {k: v for k, v in row.cells.items() if k != "topic"}
                if key:
                    row.cells["topic"] = key
            ImportRow.objects.bulk_update(rows, ["cells"])
            Import.objects.filter(pk=of.pk).update(state=ImportState.LOOKING, done=0)
    else:
        Import.objects.filter(pk=of.pk).update(topic=topic, state=ImportState.LOOKING, done=0)


def skip_wrong(of: Import) -> None:
    """Leave out all questions that something is wrong with."""
    _refuse_unready(of)
    of.rows.filter(skip=False).exclude(problems=[]).update(skip=True)


def ask_to_store(of: Import, body: StoreImportIn) -> None:
    """Have an import taken in soon. Conflict while something is wrong with a question that isn't
    left out."""
    _refuse_unready(of)
    if of.kind == ImportKind.PACK:
        _ask_for_pack(of, body)
        return
    taken = of.rows.filter(skip=False)
    wrong = taken.exclude(problems=[]).count()
    if wrong:
        says = gettext("Correct or leave out the questions with problems first: {wrong}.")
        raise Conflict(says.format(wrong=wrong), code="problems_left")
    if not taken.exists() and not (body.publish and qti_tests.any_wanted(of)):
        raise Conflict(gettext("All questions are left out."), code="nothing_left")
    replaced = Counter(
        taken.exclude(cells__replaces=None).values_list("cells__replaces", flat=True)
    )
    if twice := sorted(key for key, count in replaced.items() if key and count > 1):
        says = gettext("Several items would replace the same question: {keys}.")
        raise Conflict(says.format(keys=", ".join(twice)), code="replaced_twice")
    drafts = Draft.objects.filter(course=of.course, collection=None).count()
    if not body.publish and drafts + taken.count() > MOST_DRAFTS:
        raise Conflict(gettext("Publish or throw away some drafts first."), code="too_many_drafts")
    waiting = Import.objects.filter(pk=of.pk, state__in=(ImportState.READY, ImportState.FAILED))
    waiting.update(state=ImportState.STORING, publish=body.publish, why=body.why.strip(), done=0)


def _ask_for_pack(of: Import, body: StoreImportIn) -> None:
    if of.report.get("problems"):
        raise Conflict(gettext("Something is wrong with this pack."), code="problems_left")
    if of.report.get("conflicts") and not body.over:
        says = gettext("Files that were changed here too would be replaced. Say so first.")
        raise Conflict(says, code="changed_here")
    waiting = Import.objects.filter(pk=of.pk, state__in=(ImportState.READY, ImportState.FAILED))
    waiting.update(state=ImportState.STORING, publish=True, why=body.why.strip())


def store(of: Import, by: User) -> None:
    """Take an import into the course: every question that isn't left out, or none."""
    looker = Looker(of)
    rows = list(of.rows.filter(skip=False).select_related("topic").order_by("line"))
    found: list[tuple[ImportRow, PackFamily]] = []
    replacing = qti_in.Replacing(of, rows)
    for row in rows:
        read = _look(looker, replacing, row)
        if read is None or read.read is None or row.topic is None:
            row.save()
            says = gettext("Something changed in the course. Look at line {line} again.")
            _fail(of, says.format(line=row.line))
            return
        found.append((row, read.read))
    try:
        with transaction.atomic():
            _take(of, found, replacing, by)
    except Unprocessable as error:
        _fail(of, str(error))


def _fail(of: Import, why: str) -> None:
    Import.objects.filter(pk=of.pk).update(state=ImportState.FAILED, why=why[:300])


def _take(
    of: Import,
    found: Sequence[tuple[ImportRow, PackFamily]],
    replacing: qti_in.Replacing,
    by: User,
) -> None:
    taken = set(Family.objects.filter(course=of.course).values_list("key", flat=True))
    taken |= set(Draft.objects.filter(course=of.course).values_list("key", flat=True))
    for row, one in found:
        was = replacing.replaced(row)
        row.before = "" if was is None or was.latest is None else text_of(was.latest)
        wanted = str(row.item.get("key") or one.family.title)
        row.key = free_key(wanted, "question", taken) if was is None else was.key
        taken.add(row.key)
    rows = [row for row, _ in found]
    if of.publish:
        _publish(of, found, by)
    else:
        _draft(of, rows, by)
    qti_in.remember(of, rows)
    ImportRow.objects.bulk_update(rows, ["key", "text", "before", "item"])
    if of.publish:
        qti_tests.make_tests(of, by)
    Import.objects.filter(pk=of.pk).update(state=ImportState.DONE, done=len(found))
    says = gettext("{many} questions from {name}: {why}")
    text = says.format(many=len(found), name=of.name, why=of.why)
    audit(AuditKind.PUBLISHED, by=by, account=by, says=text)


def _publish(of: Import, found: Sequence[tuple[ImportRow, PackFamily]], by: User) -> None:
    by_topic: dict[Topic, dict[str, PackFamily]] = defaultdict(dict)
    for row, read in found:
        assert row.topic is not None, "it was looked through"
        by_topic[row.topic][row.key] = _named(read, row.key)
    for topic, families in by_topic.items():
        topic.course = of.course
        load_families(topic, families, clock.now(), by=by, why=of.why)
    refresh_digest(of.course)


def _named(read: PackFamily, key: str) -> PackFamily:
    return replace(read, family=replace(read.family, key=key))


def _draft(of: Import, rows: Sequence[ImportRow], by: User) -> None:
    now = clock.now()
    replaced = Family.objects.filter(course=of.course, key__in=[row.key for row in rows])
    bases = dict(replaced.values_list("key", "latest"))
    Draft.objects.bulk_create(
        Draft(
            course=of.course, topic=row.topic, key=row.key, text=row.text,
            base_id=bases.get(row.key),
            began_by=by, by=by, began_at=now, at=now,
        )
        for row in rows
    )  # fmt: skip


@transaction.atomic
def undo(of: Import, by: User) -> list[str]:
    """Take back what an import brought; keys of what stays, because it was changed since, or is
    what a topic lives of."""
    if of.state != ImportState.DONE or of.kind == ImportKind.PACK:
        raise Conflict(gettext("There is nothing to take back."), code="not_done")
    rows = {row.key: row for row in of.rows.exclude(key="")}
    kept = [] if of.publish else _undo_drafts(of, rows)
    kept += qti_tests.take_back(of)
    if of.publish:
        put_back, left_over = _put_back(of, rows, by)
        left = {key: row for key, row in rows.items() if key not in put_back}
        kept += left_over + _undo_published(of, left, by)
    qti_in.forget(of, [row for key, row in rows.items() if key not in kept])
    Import.objects.filter(pk=of.pk).update(state=ImportState.UNDONE)
    says = gettext("Taken back: the questions from {name}").format(name=of.name)
    audit(AuditKind.PUBLISHED, by=by, account=by, says=says)
    return sorted(kept)


def _undo_drafts(of: Import, rows: dict[str, ImportRow]) -> list[str]:
    drafts = {one.key: one for one in Draft.objects.filter(course=of.course, key__in=rows)}
    same = [key for key, draft in drafts.items() if draft.text == rows[key].text]
    Draft.objects.filter(course=of.course, key__in=same).delete()
    new = [key for key, row in rows.items() if not row.before]
    published = Family.objects.filter(course=of.course, key__in=new).values_list("key", flat=True)
    return [*(drafts.keys() - same), *published]


def _put_back(of: Import, rows: dict[str, ImportRow], by: User) -> tuple[set[str], list[str]]:
    """Questions that an import replaced become what they were; keys of all that it replaced, and of
    those that stay, because somebody changed them since."""
    before = {key: row for key, row in rows.items() if row.before}
    families = Family.objects.filter(course=of.course, key__in=before)
    kept = []
    for one in families.select_related("latest__source", "topic", "course"):
        row = before[one.key]
        if one.latest is None or text_of(one.latest) != row.text:
            kept.append(one.key)
            continue
        path = family_path(one.topic.key, one.key)
        files = topic_files(of.course, one.topic.key)
        read = read_family(row.before, path, one.key, one.topic.key, files).read
        if read is None:
            kept.append(one.key)
            continue
        one.topic.course = of.course
        load_families(one.topic, {one.key: read}, clock.now(), by=by, why=gettext("Import undone"))
    return set(before), kept


def _undo_published(of: Import, rows: dict[str, ImportRow], by: User) -> list[str]:
    """Those that nobody was shown go; others are asked of nobody any more."""
    families = Family.objects.filter(course=of.course, key__in=rows, live=True)
    found = list(families.select_related("latest__source", "topic", "course"))
    same = [one for one in found if one.latest and text_of(one.latest) == rows[one.key].text]
    shown = set(
        Presentation.objects.filter(revision__family__in=same).values_list(
            "revision__family", flat=True
        )
    )
    stay = stop_families(same, gettext("Import undone"), by, clock.now()) if same else []
    gone = [one.pk for one in same if one.pk not in shown and one not in stay]
    Family.objects.filter(pk__in=gone).update(latest=None)
    Family.objects.filter(pk__in=gone).delete()
    refresh_digest(of.course)
    changed = [one.key for one in found if one not in same]
    return [*changed, *(one.key for one in stay)]


def _refuse_unready(of: Import) -> None:
    if of.state not in {ImportState.READY, ImportState.FAILED}:
        says = {
            ImportState.LOOKING: gettext("Its questions are still being looked through."),
            ImportState.STORING: gettext("It is being taken into the course."),
        }.get(ImportState(of.state), gettext("It is done with."))
        raise Conflict(says, code="not_ready")
