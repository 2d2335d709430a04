"""A test given to a group and attempts at it, for the tutor who asks about them."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.groups.batches import given_together
from vendaval.groups.models import Group
from vendaval.groups.queries import own_group
from vendaval.people.models import User
from vendaval.shared.errors import NotFound

from ..models import Assignment, Attempt


def assignment_of(group: Group, assignment_id: int) -> Assignment:
    """A test given to a group, or NotFound."""
    rows = Assignment.objects.filter(group=group).select_related("test")
    found = rows.filter(pk=assignment_id).first()
    if found is None:
        raise NotFound(gettext("This group doesn’t have this test."))
    found.group = group
    return found


def own_assignment(person: User, group_id: int, assignment_id: int, operation: str) -> Assignment:
    """A test of a group that a person teaches, with its group, for an operation they may do."""
    return assignment_of(own_group(person, group_id, operation), assignment_id)


def rows_of(row: Assignment, person: User, *, together: bool, some: bool) -> list[Assignment]:
    """A test as it was given, with the other groups that have it too where it is for all: some
    attempts are of one group."""
    others = given_together(row, person) if together and not some else []
    for one in others:
        one.test = row.test
    return [row, *others]


def attempt_of(group: Group, assignment_id: int, attempt_id: int) -> Attempt:
    """An attempt at a test of a group by somebody who is in it now, or NotFound."""
    rows = Attempt.objects.filter(
        assignment=assignment_of(group, assignment_id),
        enrolment__groups__group=group,
        enrolment__groups__until=None,
        enrolment__until=None,
    )
    found = rows.filter(pk=attempt_id).first()
    if found is None:
        raise NotFound(gettext("We can’t find this attempt."))
    return found
