"""How a family came to be as it is: revisions, steps of its draft, and any of them put back."""

from __future__ import annotations

import difflib
from collections.abc import Iterator, Sequence

from django.utils.translation import gettext

from vendaval.bank.kept import text_of
from vendaval.bank.models import FamilyRevision
from vendaval.people.models import User
from vendaval.shared.errors import NotFound

from .drafts import keep_text
from .families import Opened
from .models import DraftStep
from .schemas import (
    ComparedOut,
    DiffLineOut,
    DraftStepOut,
    HistoryOut,
    SideOut,
    TryVersionIn,
)
from .trying import revision_question, try_version
from .workbench import revision_line, revision_out

MOST = 100
DRAFT = 0
MOST_LINES = 1500


def history(family: Opened) -> HistoryOut:
    """Revisions and steps of the draft, the newest first."""
    rows = FamilyRevision.objects.filter(family=family.family).select_related("source__by")
    steps = DraftStep.objects.filter(draft=family.draft).select_related("by").order_by("-pk")
    return HistoryOut(
        title=str((family.read(family.text).data or {}).get("title", family.key)),
        is_draft=family.draft is not None,
        revisions=[
            revision_line(row, getattr(row, "source", None))
            for row in rows.order_by("-number")[:MOST]
        ],
        steps=[
            DraftStepOut(id=one.pk, by="" if one.by is None else one.by.display_name, at=one.at)
            for one in (steps[:MOST] if family.draft is not None else ())
        ],
    )


def _revision(family: Opened, number: int) -> FamilyRevision:
    found = FamilyRevision.objects.filter(family=family.family, number=number).first()
    if found is None or family.family is None:
        raise NotFound(gettext("There is no such revision."))
    found.family = family.family
    return found


def compared(family: Opened, older: int, newer: int, seed: int) -> ComparedOut:
    """Two revisions side by side; number 0 is the draft."""
    texts = [_text(family, older), _text(family, newer)]
    return ComparedOut(
        older=_side(family, older, seed),
        newer=_side(family, newer, seed),
        lines=list(_lines(*texts)),
    )


def _text(family: Opened, number: int) -> str:
    return family.text if number == DRAFT else text_of(_revision(family, number))


def _side(family: Opened, number: int, seed: int) -> SideOut:
    if number != DRAFT:
        found = _revision(family, number)
        question = revision_question(family.course, family.topic, found, seed)
        return SideOut(revision=revision_out(found), question=question)
    if family.read(family.text).read is None:
        return SideOut(revision=None, question=None)
    tried = try_version(family, TryVersionIn(seed=seed))
    return SideOut(revision=None, question=tried.question)


def _lines(older: str, newer: str) -> Iterator[DiffLineOut]:
    """Lines of both and of either. Texts of very many lines aren't held against each other."""
    before, after = older.splitlines(), newer.splitlines()
    steps: Sequence[tuple[str, int, int, int, int]]
    steps = [("replace", 0, len(before), 0, len(after))]
    if max(len(before), len(after)) <= MOST_LINES:
        steps = difflib.SequenceMatcher(None, before, after).get_opcodes()
    for what, begin, end, start, stop in steps:
        if what == "equal":
            yield from (DiffLineOut(of="both", text=line) for line in before[begin:end])
        else:
            yield from (DiffLineOut(of="older", text=line) for line in before[begin:end])
            yield from (DiffLineOut(of="newer", text=line) for line in after[start:stop])


def restore_revision(family: Opened, number: int, by: User) -> Opened:
    """Make a draft of an older revision; it is published like any other."""
    return keep_text(family, text_of(_revision(family, number)), by)


def restore_step(family: Opened, step: int, by: User) -> Opened:
    """Make the draft what it was at a time."""
    found = DraftStep.objects.filter(draft=family.draft, pk=step).first()
    if found is None or family.draft is None:
        raise NotFound(gettext("There is no such step."))
    return keep_text(family, found.text, by)
