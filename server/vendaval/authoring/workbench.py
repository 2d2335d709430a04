"""What the page of a family shows while somebody writes it, made anew at every keystroke."""

from __future__ import annotations

from typing import Any

from vendaval.bank.models import Course, FamilyRevision, RevisionSource, StoppedFamily, StudySection
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Group
from vendaval.shared.editing import edit_version
from vendaval_core.authoring.expressions import expressions_in
from vendaval_core.authoring.table import VersionRow, VersionsTable, versions_table
from vendaval_core.errors import CoreError
from vendaval_core.items.expressions import Value, evaluate
from vendaval_core.items.model import Family
from vendaval_core.items.template import shown
from vendaval_core.items.versions import draw_variables
from vendaval_core.packs.families import FamilyRead
from vendaval_core.packs.located import PackProblem

from .families import Opened, enough_versions, rules_of
from .schemas import (
    DraftFile,
    DraftState,
    FamilyRevisionOut,
    FilledOut,
    PartShownOut,
    ProblemOut,
    SectionChoiceOut,
    SlipShownOut,
    VersionFaultOut,
    VersionRowOut,
    VersionsOut,
    WorkbenchOut,
)

MOST_SLOTS = 400


def draft_state(opened: Opened, read: FamilyRead | None = None) -> DraftState:
    """What of a family can be edited, as it is now."""
    found = opened.read(opened.text) if read is None else read
    return DraftState(text=opened.text, data=found.data)


def draft_version(text: str) -> str:
    """The version of a draft: its fields are those of its file, so the text says it all."""
    return edit_version(DraftFile(text=text))


def workbench(opened: Opened, seed: int = 1) -> WorkbenchOut:
    """Everything the page of a family shows. seed: of the version whose values it shows."""
    read = opened.read(opened.text)
    family = None if read.read is None else read.read.family
    draft, published = opened.draft, opened.published
    halted = opened.family is not None and StoppedFamily.objects.filter(family=opened.family)
    return WorkbenchOut(
        key=opened.key,
        topic=PlaceOut(key=opened.topic.key, title=opened.topic.title),
        version=draft_version(opened.text),
        text=opened.text,
        data=read.data,
        problems=[problem_out(one) for one in read.problems],
        versions=None if family is None else _versions(opened.course, family),
        slots=[] if family is None or read.data is None else slots_of(family, read.data, seed),
        published=None if published is None else revision_out(published),
        based_on=None if draft is None or draft.base is None else draft.base.number,
        saved_at=None if draft is None else draft.at,
        saved_by="" if draft is None or draft.by is None else draft.by.display_name,
        is_draft=draft is not None,
        live=opened.family is not None and opened.family.live,
        stopped=bool(halted and halted.exists()),
        rehearsal=opened.rehearsal,
        group=_group_of(opened),
        sections=section_choices(opened),
    )


def _group_of(opened: Opened) -> str:
    if opened.collection_id is None:
        return ""
    return Group.objects.get(collection=opened.collection_id).title


def _versions(course: Course, family: Family) -> VersionsOut:
    return versions_out(versions_table(family, rules_of(course), enough_versions()))


def versions_out(table: VersionsTable) -> VersionsOut:
    """A table of versions as it is sent."""
    return VersionsOut(
        names=list(table.names),
        versions=table.versions,
        rows=[_row_out(row) for row in table.rows],
        looked_at=table.looked_at,
        faulty=list(table.faulty),
        doubted=list(table.doubted),
        differing=table.differing,
        constraints=list(table.constraints),
    )


def _row_out(row: VersionRow) -> VersionRowOut:
    parts = [
        PartShownOut(
            id=part.id,
            right=part.right,
            slips=[SlipShownOut(words=s.words, response=s.response) for s in part.slips],
        )
        for part in row.parts
    ]
    return VersionRowOut(
        seed=row.seed,
        values=list(row.values),
        parts=parts,
        faults=[VersionFaultOut(field=where, says=what) for where, what in row.faults],
        doubts=[doubt.says for doubt in row.doubts],
    )


def problem_out(problem: PackProblem) -> ProblemOut:
    """A problem of a file as it is sent."""
    return ProblemOut(line=problem.line, field=problem.field, says=problem.what)


def revision_out(revision: FamilyRevision) -> FamilyRevisionOut:
    """A revision with its source loaded, if it has one."""
    source = RevisionSource.objects.filter(revision=revision).select_related("by").first()
    return revision_line(revision, source)


def revision_line(revision: FamilyRevision, source: RevisionSource | None) -> FamilyRevisionOut:
    """A revision and what it was made from."""
    return FamilyRevisionOut(
        number=revision.number,
        by="" if source is None or source.by is None else source.by.display_name,
        at=None if source is None else source.at,
        why="" if source is None else source.why,
        fresh=source is not None and source.fresh,
    )


def section_choices(opened: Opened) -> list[SectionChoiceOut]:
    """Study sections of the course, those of the own topic first."""
    rows = StudySection.objects.filter(topic__course=opened.course).select_related("topic")
    order = rows.order_by("topic__subject__position", "topic__position", "position")
    own = opened.topic.pk
    found = sorted(order, key=lambda row: row.topic_id != own)
    return [
        SectionChoiceOut(
            value=row.key if row.topic_id == own else f"{row.topic.key}#{row.key}",
            title=row.title if row.topic_id == own else f"{row.topic.title}: {row.title}",
        )
        for row in found
    ]


def slots_of(family: Family, data: dict[str, Any], seed: int) -> list[FilledOut]:
    """What each place of the texts, and each expression, gives in a version. Those that give
    nothing are left out: what is wrong with them is a problem of its own."""
    try:
        values = draw_variables(family, min(seed, family.versions))
    except CoreError:
        return []
    found: dict[str, str] = {}
    for expression in expressions_in(data)[:MOST_SLOTS]:
        value = _shown(expression, values)
        if value is not None:
            found[expression] = value
    found |= {name: shown(value) for name, value in values.items()}
    return [FilledOut(expression=e, shown=s) for e, s in found.items()]


def _shown(expression: str, values: dict[str, Value]) -> str | None:
    try:
        return shown(evaluate(expression, values))
    except CoreError:
        return None
