"""How a family came to be as it is: revisions, steps of its draft, and any of them put back."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.bank.kept import text_of
from vendaval.bank.models import FamilyRevision
from vendaval.people.models import User
from vendaval.shared.errors import NotFound

from .drafts import keep_text
from .families import Opened
from .models import DraftStep
from .schemas import DraftStepOut, HistoryOut, RevisionShownOut
from .trying import revision_question
from .workbench import revision_line, revision_out

MOST = 100


def history(family: Opened) -> HistoryOut:
    """Revisions and steps of the draft, the newest first."""
    rows = FamilyRevision.objects.filter(family=family.family).select_related("source__by")
    steps = DraftStep.objects.filter(draft=family.draft).select_related("by").order_by("-pk")
    return HistoryOut(
        title=family.key,
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


def revision_shown(family: Opened, number: int, seed: int) -> RevisionShownOut:
    """A revision: its file, and one of its versions with everything told."""
    found = _revision(family, number)
    return RevisionShownOut(
        revision=revision_out(found),
        text=text_of(found),
        question=revision_question(family.course, family.topic, found, seed),
        versions=50,
    )


def restore_revision(family: Opened, number: int, by: User) -> Opened:
    """Make a draft of an older revision; it is published like any other."""
    return keep_text(family, text_of(_revision(family, number)), by)


def restore_step(family: Opened, step: int, by: User) -> Opened:
    """Make the draft what it was at a time."""
    found = DraftStep.objects.filter(draft=family.draft, pk=step).first()
    if found is None or family.draft is None:
        raise NotFound(gettext("There is no such step."))
    return keep_text(family, found.text, by)
