"""What one learner is allowed at a test beside its rules: by whom, and why."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment, Group
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.changes import until_stored
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval_core.assessment.attempt import cut_off_of, limits_of
from vendaval_core.assessment.interventions import allowed_more

from ..assigning.assigned import assigned_test_of
from ..assigning.schemas import AllowanceIn, AllowanceOut
from ..composing.actions import wrong_dates
from ..models import Allowance, Assignment, Attempt
from ..taking.actions import hand_in_later
from ..taking.state import LOADED, keep


def allow(group: Group, assignment: Assignment, by: User, wanted: AllowanceIn) -> Allowance:
    """Allow a learner of the group more; it takes the place of what was allowed before. More time
    reaches an attempt under way at once."""
    rows = Enrolment.objects.filter(groups__group=group, groups__until=None, until=None)
    enrolment = rows.filter(pk=wanted.learner).first()
    if enrolment is None:
        raise NotFound(gettext("This learner isn’t in this group."))
    dates = {
        name: getattr(wanted, name) or getattr(assignment, name)
        for name in ("opens", "due", "closes")
    }
    problems = wrong_dates(assignment.test.rules.core(), dates)
    if problems:
        raise Unprocessable(gettext("These dates don’t work. Fix what is marked."), fields=problems)
    row = Allowance.objects.create(
        assignment=assignment,
        enrolment=enrolment,
        times=wanted.times,
        minutes=wanted.minutes,
        attempts=wanted.attempts,
        opens=wanted.opens,
        due=wanted.due,
        closes=wanted.closes,
        by=by,
        why=wanted.why.strip(),
        at=clock.now(),
    )
    says = f"{assignment.test.title}: {row.why}"
    audit(AuditKind.ALLOWED, account=enrolment.person, by=by, says=says)
    for attempt in Attempt.objects.filter(
        assignment=assignment, enrolment=enrolment, handed_in_at=None
    ):
        lengthen(attempt.pk)
    return row


def lengthen(attempt_id: int) -> None:
    """Let an attempt under way have what its learner is allowed now."""

    def work() -> Attempt:
        attempt = Attempt.objects.select_related(*LOADED).get(pk=attempt_id)
        attempt.run.enrolment = attempt.enrolment
        given, now, core = assigned_test_of(attempt), clock.now(), attempt.core()
        limits = limits_of(given.composition, core.rules, given.extra)
        cut_off = cut_off_of(core.rules, given.due, given.closes)
        after = allowed_more(core, limits, cut_off, now)
        if after != core:
            attempt.due = given.due
            keep(attempt, after, "due")
        return attempt

    hand_in_later(until_stored(work))


def allowances_at(assignment: Assignment) -> dict[int, AllowanceOut]:
    """What counts now, by enrolment."""
    rows = Allowance.objects.filter(assignment=assignment).select_related("by").order_by("pk")
    return {
        row.enrolment_id: AllowanceOut(
            times=row.times,
            minutes=row.minutes,
            attempts=row.attempts,
            opens=row.opens,
            due=row.due,
            closes=row.closes,
            by=row.by.display_name if row.by is not None else "",
            why=row.why,
            at=row.at,
        )
        for row in rows
    }
