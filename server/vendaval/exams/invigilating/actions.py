"""What whoever watches over a test does with attempts that go on: pauses, resumes, gives time.

Each is in the log and in the attempt's history, with who did it and why.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Sequence
from datetime import datetime, timedelta

from django.db import transaction
from django.utils.translation import gettext

from vendaval.groups.models import Group
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.changes import until_stored
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.assessment.attempt import Attempt as CoreAttempt
from vendaval_core.assessment.attempt import resumed
from vendaval_core.assessment.clock import MOST_PAUSED
from vendaval_core.assessment.interventions import extended, paused
from vendaval_core.words import minutes_words

from ..models import Assignment, Attempt, Intervention, InterventionKind
from ..taking.actions import hand_in_later
from ..taking.state import LOADED, keep
from .schemas import InterventionOut

Step = Callable[[CoreAttempt, datetime], CoreAttempt]
Later = Callable[[CoreAttempt, datetime, datetime], timedelta]


def note(
    attempt: Attempt,
    what: InterventionKind,
    by: User,
    *,
    why: str = "",
    says: str = "",
    kind: AuditKind = AuditKind.SITTING,
) -> None:
    """Put something that was done with an attempt into its history and into the log."""
    Intervention.objects.create(
        attempt=attempt, kind=what, by=by, why=why, says=says, at=clock.now()
    )
    words = gettext("{test}: {value}{text}").format(
        test=attempt.test.title, value=says or str(what.label), text=f", {why}" if why else ""
    )
    audit(kind, account=attempt.enrolment.person, by=by, says=words[:200])


def histories(attempts: Iterable[Attempt]) -> dict[int, list[InterventionOut]]:
    """What was done with each of these attempts, the latest last."""
    found: dict[int, list[InterventionOut]] = {}
    rows = Intervention.objects.filter(attempt__in=list(attempts)).select_related("by")
    for row in rows.order_by("pk"):
        line = InterventionOut(
            kind=InterventionKind(row.kind),
            by=row.by.display_name if row.by is not None else "",
            why=row.why,
            says=row.says or str(InterventionKind(row.kind).label),
            at=row.at,
        )
        found.setdefault(row.attempt_id, []).append(line)
    return found


def everywhere(rows: Sequence[Assignment], act: Callable[[Assignment], None]) -> None:
    """Do something in every group that has a test: Conflict only where there was nobody to do it
    for in any of them."""
    refused, done = None, False
    for one in rows:
        try:
            act(one)
            done = True
        except Conflict as error:
            refused = error
    if refused is not None and not done:
        raise refused


def pause(
    group: Group, assignment: Assignment, wanted: Collection[int] | None, by: User, why: str
) -> None:
    """Stop the clocks of attempts that go on."""
    chosen = _going(group, assignment, wanted)
    _step(assignment, chosen, lambda core, now: paused(core, now), InterventionKind.PAUSED, by, why)


def resume(group: Group, assignment: Assignment, wanted: Collection[int] | None, by: User) -> None:
    """Let paused attempts go on with the time they had."""
    chosen = [one for one in _going(group, assignment, wanted) if one.standing.paused is not None]
    if not chosen:
        raise Conflict(gettext("Nothing is paused."), code="not_paused")
    kind = InterventionKind.RESUMED
    _step(assignment, chosen, lambda core, now: resumed(core, now), kind, by, later=_paused_for)


def _paused_for(core: CoreAttempt, due: datetime, now: datetime) -> timedelta:
    """How long a pause was, for what was not due before it."""
    if core.paused is None or due < core.paused:
        return timedelta(0)
    return min(now - core.paused, MOST_PAUSED)


def give_time(
    group: Group,
    assignment: Assignment,
    wanted: Collection[int] | None,
    minutes: int,
    by: User,
    why: str,
) -> None:
    """Give attempts that go on more time, in the part of the test that each is in."""
    _step(
        assignment,
        _going(group, assignment, wanted),
        lambda core, now: extended(core, 60.0 * minutes, now),
        InterventionKind.MORE_TIME,
        by,
        why,
        gettext("{minutes} more").format(minutes=minutes_words(minutes)),
        lambda _, due, now: timedelta(minutes=minutes if due > now else 0),
    )


def _going(group: Group, assignment: Assignment, wanted: Collection[int] | None) -> list[Attempt]:
    """Attempts of the group's learners now that go on; Conflict when there is none. NotFound for
    a wanted one that is no attempt at this test."""
    rows = Attempt.objects.filter(
        assignment=assignment,
        enrolment__groups__group=group,
        enrolment__groups__until=None,
        enrolment__until=None,
    ).distinct()
    if wanted is not None:
        rows = rows.filter(pk__in=wanted)
        if rows.count() < len(set(wanted)):
            raise NotFound(gettext("We can’t find this attempt."))
    going = list(rows.filter(handed_in_at=None))
    if not going:
        raise Conflict(gettext("Nobody is taking this test now."), code="nobody_sits")
    return going


def _step(
    assignment: Assignment,
    attempts: Iterable[Attempt],
    step: Step,
    kind: InterventionKind,
    by: User,
    why: str = "",
    says: str = "",
    later: Later = lambda *_: timedelta(0),
) -> None:
    """Take a step with each attempt, and note it where it changed something. later: by how much
    what is handed in afterwards is due later."""
    for one in attempts:

        def work(pk: int = one.pk) -> tuple[Attempt, bool]:
            attempt, now = Attempt.objects.select_related(*LOADED).get(pk=pk), clock.now()
            core = attempt.core()
            after = step(core, now)
            if after == core:
                return attempt, False
            if attempt.due is not None:
                attempt.due += later(core, attempt.due, now)
            with transaction.atomic():
                keep(attempt, after, "due")
                if after.handed_in is None:
                    note(attempt, kind, by, why=why.strip(), says=says)
            return attempt, after.handed_in is None

        attempt, changed = until_stored(work)
        if changed:
            hand_in_later(attempt)
    hold_what_dates_tell(assignment)


def hold_what_dates_tell(assignment: Assignment) -> None:
    """Let what dates would tell wait for the last who sits: nobody's answers reach another."""
    ends = [
        core.cut_off + (timedelta(0) if core.paused is None else MOST_PAUSED)
        for attempt in Attempt.objects.filter(assignment=assignment)
        if (core := attempt.core()).cut_off is not None and core.cut_off is not None
    ]
    latest = max(ends, default=None)
    if latest != assignment.prolonged_until:
        Assignment.objects.filter(pk=assignment.pk).update(prolonged_until=latest)
