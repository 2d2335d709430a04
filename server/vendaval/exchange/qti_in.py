"""Packages of QTI: begun, their items read in a process of their own, and known again when they
come once more."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.models import Draft
from vendaval.bank.models import Course, Family
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval.shared.sandbox import Limits, in_sandbox

from .models import Import, ImportedItem, ImportKind, ImportRow, ImportState
from .qti_rows import tolerance_of
from .reading import Looker

MODULE = "vendaval.exchange.qti_reading"
LIMITS = Limits(megabytes=700, seconds=60, patience=90)
AT_ONCE, LONGEST_NAME, MOST_KEPT = 80, 200, 50_000_000
# What looking at a row finds out.
FOUND = ("topic", "problems", "notes", "same", "text")


def listed(content: bytes, who: str) -> dict[str, Any]:
    """What a file holds: `pack` for a pack of ours, else `items` and `notes`. Unprocessable for
    what can't be read."""
    return in_sandbox(MODULE, {}, content, who=who, limits=LIMITS)[0]


def begin_qti(course: Course, name: str, content: bytes, says: dict[str, Any], by: User) -> Import:
    """Keep a package, to be looked through. Unprocessable for one without items."""
    if not says["items"]:
        notes = "; ".join(says["notes"][:3]) or gettext("empty")
        raise Unprocessable(
            gettext("There are no questions in this package."), fields={"file": notes}
        )
    stored = f"imports/{hashlib.sha256(content).hexdigest()}.zip"
    if not default_storage.exists(stored):
        default_storage.save(stored, ContentFile(content))
    with transaction.atomic():
        made = Import.objects.create(
            course=course,
            by=by,
            name=name,
            at=clock.now(),
            kind=ImportKind.QTI,
            state=ImportState.LOOKING,
            stored=stored,
            unread=says["notes"],
        )
        ImportRow.objects.bulk_create(
            ImportRow(
                of=made,
                line=number,
                cells={"question": item["title"] or item["path"]},
                item={"path": item["path"]},
            )
            for number, item in enumerate(says["items"], start=1)
        )
    return made


def read_items(of: Import) -> None:
    """Read the items that were not read yet, some at a time, and say how far it is."""
    with default_storage.open(of.stored) as file:
        content = file.read()
    rows = [row for row in of.rows.order_by("line") if "identifier" not in row.item]
    looker = Looker(of)
    done = of.rows.count() - len(rows)
    kept = 0
    for start in range(0, len(rows), AT_ONCE):
        part = rows[start : start + AT_ONCE]
        asked = {"paths": [row.item["path"] for row in part]}
        try:
            says, _ = in_sandbox(MODULE, asked, content, who=f"import-{of.pk}", limits=LIMITS)
        except Unprocessable:
            says = {"items": [_one_by_one(of, content, row) for row in part]}
        items = []
        for item in says["items"]:
            kept += len(json.dumps(item.get("data")))
            items.append(item if kept <= MOST_KEPT else _too_much(item))
        known = Known(of.course, items)
        for row, item in zip(part, items, strict=True):
            _keep(known, row, item, looker)
        keep_rows(part)
        done += len(part)
        Import.objects.filter(pk=of.pk).update(done=done)


def _one_by_one(of: Import, content: bytes, row: ImportRow) -> dict[str, Any]:
    """One item, when those beside it could not be read: the one at fault says so."""
    path = row.item["path"]
    try:
        says, _ = in_sandbox(
            MODULE, {"paths": [path]}, content, who=f"import-{of.pk}", limits=LIMITS
        )
    except Unprocessable as error:
        return {"identifier": path, "title": path, "path": path, "refused": str(error)}
    found: dict[str, Any] = says["items"][0]
    return found


def _too_much(item: dict[str, Any]) -> dict[str, Any]:
    """An item without what it would become: its package has more than is kept."""
    says = gettext("there is more in this package than can be kept; send it in two parts")
    return item | {"data": None, "refused": says, "line": 0}


class Known:
    """What a course has of some items already: as they were taken in once, and its questions."""

    def __init__(self, course: Course, items: Sequence[dict[str, Any]]) -> None:
        named = [_identifier(item) for item in items]
        taken = ImportedItem.objects.filter(course=course, identifier__in=named)
        self._taken = {one.identifier: one for one in taken}
        keys = {one.key for one in self._taken.values()}
        keys |= {item["key"] for item in items if item.get("key")}
        live = Family.objects.filter(course=course, key__in=keys, live=True)
        self._live = {one.key: one for one in live.select_related("topic", "latest")}

    def of(self, item: dict[str, Any]) -> tuple[ImportedItem | None, Family | None]:
        """What was taken in under its name, and the question of the course that it is."""
        taken = self._taken.get(_identifier(item))
        key = item.get("key") or ("" if taken is None else taken.key)
        return taken, self._live.get(key)


def _keep(known: Known, row: ImportRow, item: dict[str, Any], looker: Looker) -> None:
    """Note in a row what its item is, and whether the course has it already."""
    row.item = item
    data = item.get("data")
    row.cells = {"question": str(item.pop("asks", item.get("title", "")))[:500]}
    if data is not None:
        row.cells |= {
            "right": item.pop("right", ""),
            "difficulty": str(data.get("difficulty", 3)),
            "seconds": f"{data.get('seconds', 60):g}",
            "tolerance": tolerance_of(data),
            "essential": gettext("yes") if data.get("essential") else "",
        }
    topics = [*item.get("topics", []), str(item.get("title", ""))]
    row.cells["topic"] = next((key for text in topics if (key := looker.topic_key(text))), "")
    _seen_before(known, row)
    row.cells = {name: text for name, text in row.cells.items() if text}
    looker.look(row)


def _seen_before(known: Known, row: ImportRow) -> None:
    """An item that the course took in once, or that was one of its questions: nothing to do, or
    instead of what stands there."""
    item = row.item
    taken, family = known.of(item)
    if item.get("of"):
        row.skip = True
        item["seen"] = "version"
    elif family is None:
        item["seen"] = "new"
    else:
        same = taken is not None and taken.digest == item.get("digest")
        row.cells["topic"] = family.topic.key
        row.same = family.key
        row.skip = same or _is_same(family, item)
        item["seen"] = "same" if row.skip else "changed"
        if not row.skip:
            row.cells["replaces"] = family.key


def _is_same(family: Family, item: dict[str, Any]) -> bool:
    """Whether an item is a question of the course as it stands."""
    data = item.get("data")
    latest = family.latest
    if data is None or latest is None:
        return False
    mine = latest.data.model_dump(mode="json")
    names = set(mine) | set(data)
    return all(_plain(mine.get(name)) == _plain(data.get(name)) for name in names)


def _plain(value: Any) -> Any:
    """A field of a family, however it is written: nothing where it stands at its default."""
    if value in (None, "", [], {}, False):
        return None
    if isinstance(value, dict):
        return {k: p for k, v in value.items() if (p := _plain(v)) is not None}
    if isinstance(value, list | tuple):
        return [_plain(one) for one in value]
    return float(value) if isinstance(value, int) and not isinstance(value, bool) else value


def keep_rows(rows: Sequence[ImportRow]) -> None:
    """Store what was found out about rows that were read."""
    ImportRow.objects.bulk_update(rows, ["cells", "item", "skip", *FOUND])


def remember(of: Import, rows: Sequence[ImportRow]) -> None:
    """Know items again that a course has taken in; each row keeps what was known before."""
    now = clock.now()
    named = {_identifier(row.item): row for row in rows if row.item}
    before = ImportedItem.objects.filter(course=of.course, identifier__in=list(named))
    for one in before:
        named[one.identifier].item["known"] = {"key": one.key, "digest": one.digest}
    ImportedItem.objects.bulk_create(
        (
            ImportedItem(
                course=of.course,
                identifier=identifier,
                key=row.key,
                digest=row.item.get("digest", ""),
                at=now,
            )
            for identifier, row in named.items()
        ),
        update_conflicts=True,
        unique_fields=["course", "identifier"],
        update_fields=["key", "digest", "at"],
    )


def forget(of: Import, rows: Sequence[ImportRow]) -> None:
    """Items that were taken back are new again, or what they were known as before."""
    named = {_identifier(row.item): row for row in rows if row.item}
    known = list(ImportedItem.objects.filter(course=of.course, identifier__in=list(named)))
    back = []
    for one in known:
        was = named[one.identifier].item.get("known")
        if was:
            one.key, one.digest = was["key"], was["digest"]
            back.append(one)
    ImportedItem.objects.bulk_update(back, ["key", "digest"])
    new = [one.pk for one in known if one not in back]
    ImportedItem.objects.filter(pk__in=new).delete()


def _identifier(item: dict[str, Any]) -> str:
    return str(item.get("identifier", ""))[:LONGEST_NAME]


class Replacing:
    """The questions that rows' items are to replace, and why one can't be."""

    def __init__(self, of: Import, rows: Sequence[ImportRow]) -> None:
        keys = {key for row in rows if (key := _replaces(row))}
        live = Family.objects.filter(course=of.course, key__in=keys, live=True, collection=None)
        drafts = Draft.objects.filter(course=of.course, key__in=keys)
        self._live = {one.key: one for one in live.select_related("latest__source")}
        self._drafts = set(drafts.values_list("key", flat=True))

    def replaced(self, row: ImportRow) -> Family | None:
        """The question that a row's item is to replace."""
        return self._live.get(_replaces(row))

    def problem(self, row: ImportRow) -> str:
        """Why that can't be, "" for nothing."""
        key = _replaces(row)
        if not key:
            return ""
        if key not in self._live:
            return gettext("The course has no question “{key}”.").format(key=key)
        if key in self._drafts:
            return gettext("Somebody is writing at that question. Publish or throw away the draft.")
        return ""


def _replaces(row: ImportRow) -> str:
    return str(row.cells.get("replaces", "")).strip() if row.item else ""
