"""Endpoints to give tests to a group."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.exams.assigning import actions as giving
from vendaval.exams.assigning import queries as setting
from vendaval.exams.assigning.access import own_assignment
from vendaval.exams.assigning.schemas import (
    ChangeGivenIn,
    GiveCheckOut,
    GivenTestOut,
    GiveTestIn,
    GroupTestsOut,
)
from vendaval.exams.models import Assignment
from vendaval.groups import withdrawing as withdrawing
from vendaval.groups.batches import Together, given_together, groups_asked_for
from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in

from .messages import tell_test_set

router = Router(auth=signed_in, tags=["setting"])
TESTS = "/groups/{int:group_id}/tests"
GIVEN = f"{TESTS}/{{int:assignment_id}}"


def _given(request: HttpRequest, group_id: int, assignment_id: int, operation: str) -> Assignment:
    return own_assignment(current_user(request), group_id, assignment_id, operation)


@router.get(TESTS, response=GroupTestsOut, operation_id="list_group_tests")
def list_group_tests(request: HttpRequest, group_id: int) -> GroupTestsOut:
    """Tests given to a group, and where its learners stand with each."""
    return setting.group_tests(own_group(current_user(request), group_id, "list_group_tests"))


@router.post(f"{TESTS}/check", response=GiveCheckOut, operation_id="check_given")
def check_given(request: HttpRequest, group_id: int, body: GiveTestIn) -> GiveCheckOut:
    """What giving a test like this would be. Nothing is stored."""
    return giving.check_given(own_group(current_user(request), group_id, "check_given"), body)


@router.post(TESTS, response=GroupTestsOut, operation_id="give_test")
def give_test(request: HttpRequest, group_id: int, body: GiveTestIn) -> GroupTestsOut:
    """Give a test of the course to the group, or to some of it."""
    user = current_user(request)
    group = own_group(user, group_id, "give_test")
    groups = groups_asked_for(user, group, body.also, "give_test", some=body.learners is not None)
    for row in giving.give_to_groups(groups, body, user):
        tell_test_set(row)
    return setting.group_tests(group)


@router.get(GIVEN, response=GivenTestOut, operation_id="get_given")
def get_given(request: HttpRequest, group_id: int, assignment_id: int) -> GivenTestOut:
    """How a test was given."""
    row = _given(request, group_id, assignment_id, "get_given")
    return giving.given_out(row, current_user(request))


@router.put(GIVEN, response=GivenTestOut, operation_id="change_given")
def change_given(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    body: ChangeGivenIn,
    together: Together = False,
) -> GivenTestOut:
    """Change dates, pages, learners and what to study first; together, for the other groups it was
    given to as well."""
    row, user = _given(request, group_id, assignment_id, "change_given"), current_user(request)
    others = given_together(row, user) if together else []
    return giving.given_out(giving.change_together(row, body, others), user)


@router.delete(GIVEN, response=GroupTestsOut, operation_id="withdraw_test")
def withdraw_test(request: HttpRequest, group_id: int, assignment_id: int) -> GroupTestsOut:
    """Take a test back that nobody has begun."""
    row = _given(request, group_id, assignment_id, "withdraw_test")
    giving.withdraw(row)
    return setting.group_tests(row.group)


@router.post(f"{GIVEN}/restore", response=GroupTestsOut, operation_id="restore_test")
def restore_test(request: HttpRequest, group_id: int, assignment_id: int) -> GroupTestsOut:
    """Undo that a test was withdrawn."""
    group = own_group(current_user(request), group_id, "restore_test")
    withdrawing.restore(Assignment, group, assignment_id)
    return setting.group_tests(group)
