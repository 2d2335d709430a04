"""Endpoints to regrade a question of a test, for a group's tutors."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.people.permissions import current_user, signed_in

from ..assigning.access import own_assignment
from ..columns import RegradeWay
from ..models import Assignment
from . import actions, queries
from .schemas import RegradeChoiceOut, RegradeIn, RegradePreviewOut, RegradesOut

router = Router(auth=signed_in, tags=["regrading"])
REGRADE = "/groups/{int:group_id}/tests/{int:assignment_id}/regrades"
FAMILY = f"{REGRADE}/{{slug:family}}"


def _given(request: HttpRequest, group_id: int, assignment_id: int, operation: str) -> Assignment:
    return own_assignment(current_user(request), group_id, assignment_id, operation)


@router.get(REGRADE, response=RegradesOut, operation_id="list_regrades")
def list_regrades(request: HttpRequest, group_id: int, assignment_id: int) -> RegradesOut:
    """The questions of a test, and what of it was regraded."""
    return queries.regrades(_given(request, group_id, assignment_id, "list_regrades"))


@router.get(FAMILY, response=RegradeChoiceOut, operation_id="get_regrade_choice")
def get_regrade_choice(
    request: HttpRequest, group_id: int, assignment_id: int, family: str
) -> RegradeChoiceOut:
    """What there is to choose for one question."""
    assignment = _given(request, group_id, assignment_id, "get_regrade_choice")
    return queries.choices(assignment, family)


@router.post(f"{FAMILY}/preview", response=RegradePreviewOut, operation_id="preview_regrade")
def preview_regrade(
    request: HttpRequest, group_id: int, assignment_id: int, family: str, body: RegradeWay
) -> RegradePreviewOut:
    """Every attempt that a regrade would change. Nothing is stored."""
    assignment = _given(request, group_id, assignment_id, "preview_regrade")
    return queries.preview(assignment, family, body)


@router.post(FAMILY, response=RegradesOut, operation_id="regrade")
def regrade(
    request: HttpRequest, group_id: int, assignment_id: int, family: str, body: RegradeIn
) -> RegradesOut:
    """Regrade a question for everybody who had it; done in the background."""
    assignment = _given(request, group_id, assignment_id, "regrade")
    actions.regrade(assignment, family, body, current_user(request))
    return queries.regrades(assignment)


@router.post(
    f"{REGRADE}/{{int:regrade_id}}/undo", response=RegradesOut, operation_id="undo_regrade"
)
def undo_regrade(
    request: HttpRequest, group_id: int, assignment_id: int, regrade_id: int
) -> RegradesOut:
    """Take a regrade back, by the same way."""
    assignment = _given(request, group_id, assignment_id, "undo_regrade")
    actions.undo(assignment, regrade_id, current_user(request))
    return queries.regrades(assignment)
