"""A regrade asked for, and undone; the work is done in the background."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound

from ..models import Assignment, Regrade, RegradeState
from .jobs import BUSY, apply_in_background, undo_in_background
from .queries import preview
from .schemas import RegradeIn


def regrade(assignment: Assignment, family: str, wanted: RegradeIn, by: User) -> Regrade:
    """Have a question regraded for everybody, in the background. Conflict where nothing would
    change, or another regrade of this test is under way."""
    if Regrade.objects.filter(assignment=assignment, state__in=BUSY).exists():
        raise Conflict(
            gettext("Another regrade of this test is running. Wait until it is done."), code="busy"
        )
    found = preview(assignment, family, wanted.way)
    if not found.changed:
        raise Conflict(gettext("This wouldn’t change anything."), code="nothing_changes")
    row = Regrade.objects.create(
        assignment=assignment,
        family=family,
        way=wanted.way,
        why=wanted.why.strip(),
        by=by,
        at=clock.now(),
        of=found.attempts,
    )
    apply_in_background.enqueue(row.pk)
    return row


def undo(assignment: Assignment, regrade_id: int, by: User) -> None:
    """Take an applied regrade back, in the background."""
    rows = Regrade.objects.filter(assignment=assignment)
    row = rows.filter(pk=regrade_id).first()
    if row is None:
        raise NotFound(gettext("We can’t find this regrade."))
    if rows.filter(pk__gt=row.pk, family=row.family, state=RegradeState.APPLIED).exists():
        raise Conflict(
            gettext("Undo the later regrade of this question first."), code="later_first"
        )
    claimed = rows.filter(pk=regrade_id, state=RegradeState.APPLIED).update(
        state=RegradeState.UNDOING, done=0, undone_by=by, undone_at=clock.now()
    )
    if not claimed:
        raise Conflict(gettext("It hasn’t been applied."), code="not_applied")
    undo_in_background.enqueue(row.pk)
