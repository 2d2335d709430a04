"""What one learner is allowed at a test beside its rules: by whom, and why."""

from __future__ import annotations

from vendaval.groups.models import Enrolment, Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound, Unprocessable

from .composing import wrong_dates
from .models import Allowance, Assignment
from .setting_schemas import AllowanceIn, AllowanceOut


def allow(group: Group, assignment: Assignment, by: User, wanted: AllowanceIn) -> Allowance:
    """Allow a learner of the group more; it takes the place of what was allowed before. An attempt
    under way keeps what it began with."""
    rows = Enrolment.objects.filter(groups__group=group, groups__until=None, until=None)
    enrolment = rows.filter(pk=wanted.learner).first()
    if enrolment is None:
        raise NotFound("There is no such learner in this group.")
    dates = {
        name: getattr(wanted, name) or getattr(assignment, name)
        for name in ("opens", "due", "closes")
    }
    problems = wrong_dates(assignment.test.rules.core(), dates)
    if problems:
        raise Unprocessable("These dates cannot be.", fields=problems)
    return Allowance.objects.create(
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
