"""Imports as they are sent to their authors' browsers."""

from __future__ import annotations

from collections import Counter

from django.db.models import Count, Q, QuerySet
from django.db.models.fields.json import KeyTextTransform

from vendaval.bank.models import Course, Family, Topic
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared.editing import edit_version
from vendaval_core.exchange.sheet_columns import COLUMNS

from .imports import row_edit
from .models import Export, ExportState, Import, ImportKind, ImportRow, ImportState
from .qti_rows import COLUMNS as ITEM_COLUMNS
from .qti_tests import tests_out
from .reading import columns_of
from .schemas import (
    CellProblemOut,
    ExportLineOut,
    ExportsOut,
    ImportFilter,
    ImportLineOut,
    ImportOut,
    ImportRowOut,
    ImportsOut,
    LostOut,
    PackReportOut,
)

PAGE, MOST = 50, 20


def imports_out(course: Course) -> ImportsOut:
    """The newest imports of a course."""
    rows = _counted(Import.objects.filter(course=course)).order_by("-pk")[:MOST]
    return ImportsOut(imports=[_line(one) for one in rows])


def import_out(of: Import, wanted: ImportFilter) -> ImportOut:
    """An import with a page of its questions."""
    line = _line(_counted(Import.objects.filter(pk=of.pk)).get())
    rows = of.rows.select_related("topic").order_by("line")
    shown = rows.exclude(problems=[]).filter(skip=False) if wanted.wrong else rows
    many = shown.count()
    start = (wanted.page - 1) * PAGE
    seen = list(shown[start : start + PAGE])
    return ImportOut(
        **line.model_dump(),
        unread=of.unread,
        unplaced=_unplaced(of) if of.kind == ImportKind.QTI else [],
        report=PackReportOut(**of.report) if of.kind == ImportKind.PACK else None,
        topic=_place(of.topic),
        columns=list(ITEM_COLUMNS) if of.kind == ImportKind.QTI else columns_of(seen, COLUMNS),
        page=wanted.page,
        pages=max(1, -(-many // PAGE)),
        rows=rows_out(of.course, seen),
        tests=tests_out(of),
    )


def _unplaced(of: Import) -> list[str]:
    """Words for topics of questions that have none yet, the most frequent first."""
    rows = of.rows.filter(topic=None, skip=False).values_list("item__topics", flat=True)
    counted = Counter(words for topics in rows for words in topics or [])
    return [words for words, _ in counted.most_common(MOST)]


def rows_out(course: Course, rows: list[ImportRow]) -> list[ImportRowOut]:
    """Questions of a file as they are sent."""
    same = {one.same for one in rows if one.same}
    rows_of = Family.objects.filter(course=course, key__in=same)
    titles = dict(rows_of.values_list("key", KeyTextTransform("title", "latest__data")))
    return [
        ImportRowOut(
            line=one.line,
            path=one.item.get("path", ""),
            seen=one.item.get("seen", ""),
            version=edit_version(row_edit(one)),
            cells=one.cells,
            topic=_place(one.topic),
            problems=[CellProblemOut(column=column, says=says) for column, says in one.problems],
            notes=one.notes,
            same=PlaceOut(key=one.same, title=titles[one.same]) if one.same in titles else None,
            skip=one.skip,
            key=one.key,
        )
        for one in rows
    ]


def row_out(course: Course, row: ImportRow) -> ImportRowOut:
    """One of them."""
    return rows_out(course, [row])[0]


def _counted(rows: QuerySet[Import]) -> QuerySet[Import]:
    return rows.select_related("by").annotate(
        questions=Count("rows"),
        wrong=Count("rows", filter=~Q(rows__problems=[]) & Q(rows__skip=False)),
        skipped=Count("rows", filter=Q(rows__skip=True)),
    )


def _line(one: Import) -> ImportLineOut:
    counts = vars(one)
    return ImportLineOut(
        id=one.pk,
        kind=ImportKind(one.kind),
        name=one.name,
        by="" if one.by is None else one.by.display_name,
        at=one.at,
        state=ImportState(one.state),
        questions=counts["questions"],
        done=one.done,
        wrong=counts["wrong"],
        skipped=counts["skipped"],
        publish=one.publish,
        why=one.why,
    )


def _place(topic: Topic | None) -> PlaceOut | None:
    return None if topic is None else PlaceOut(key=topic.key, title=topic.title)


def exports_out(course: Course) -> ExportsOut:
    """The newest packages of a course."""
    rows = Export.objects.filter(course=course).select_related("topic", "test")
    return ExportsOut(exports=[export_out(one) for one in rows.order_by("-pk")[:MOST]])


def export_out(one: Export) -> ExportLineOut:
    """One of them."""
    return ExportLineOut(
        id=one.pk,
        at=one.at,
        topic=_place(one.topic),
        test="" if one.test is None else one.test.title,
        versions=one.versions,
        state=ExportState(one.state),
        done=one.done,
        many=one.many,
        lost=[LostOut(key=key, title=title, what=what) for key, title, what in one.lost],
        why=one.why,
    )
