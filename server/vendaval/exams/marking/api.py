"""Endpoints of marking by persons, for a group's tutors."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Path, Query, Router

from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import Conflict

from ..assigning.access import own_assignment
from ..models import Assignment, MarkerRole
from . import actions, queries
from .moderating import adjust
from .schemas import (
    AdjustIn,
    CriteriaIn,
    MarkedPartOut,
    MarkIn,
    MarkingQueueOut,
    QuestionToMarkOut,
    ReleaseIn,
    SecondMarkerIn,
    WaitingMarksOut,
)

router = Router(auth=signed_in, tags=["marking"])
MARKING = "/groups/{int:group_id}/tests/{int:assignment_id}/marking"
PART = f"{MARKING}/answers/{{int:answer_id}}/{{part}}"
FAMILY = f"{MARKING}/questions/{{slug:family}}"
Part = Annotated[str, Path(max_length=30, pattern=r"^[A-Za-z0-9_-]+$")]
Hidden = Annotated[bool, Query()]


def _given(request: HttpRequest, group_id: int, assignment_id: int, operation: str) -> Assignment:
    return own_assignment(current_user(request), group_id, assignment_id, operation)


@router.get("/marking", response=WaitingMarksOut, operation_id="list_marking")
def list_marking(request: HttpRequest) -> WaitingMarksOut:
    """Tests of one's groups that wait for a marker, or whose marks are held."""
    person = current_user(request)
    require("list_marking", person.roles, Relation.OWN)
    return queries.waiting_marks(person)


@router.get(MARKING, response=MarkingQueueOut, operation_id="get_marking")
def get_marking(request: HttpRequest, group_id: int, assignment_id: int) -> MarkingQueueOut:
    """What of a test waits for a person, and how far its marking is."""
    assignment = _given(request, group_id, assignment_id, "get_marking")
    return queries.marking_queue(assignment, current_user(request))


@router.get(FAMILY, response=QuestionToMarkOut, operation_id="get_question_to_mark")
def get_question_to_mark(
    request: HttpRequest, group_id: int, assignment_id: int, family: str, hidden: Hidden = True
) -> QuestionToMarkOut:
    """Every answer to one question of a test, with names or without."""
    assignment = _given(request, group_id, assignment_id, "get_question_to_mark")
    person = current_user(request)
    return queries.question_to_mark(assignment, family, person, hidden=hidden)


@router.post(PART, response=MarkedPartOut, operation_id="mark_answer")
def mark_answer(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    answer_id: int,
    part: Part,
    body: MarkIn,
) -> MarkedPartOut:
    """Give a part of an answer its points. Its learner sees nothing before marks are released."""
    assignment = _given(request, group_id, assignment_id, "mark_answer")
    person = current_user(request)
    actions.mark_answer(assignment, answer_id, part, body, person)
    return queries.marked_part(assignment, answer_id, part, person)


@router.delete(f"{PART}/marks/{{int:marking_id}}", response=MarkedPartOut, operation_id="undo_mark")
def undo_mark(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    answer_id: int,
    part: Part,
    marking_id: int,
) -> MarkedPartOut:
    """Undo the mark one gave last."""
    assignment = _given(request, group_id, assignment_id, "undo_mark")
    person = current_user(request)
    actions.undo_mark(assignment, answer_id, part, marking_id, person)
    return queries.marked_part(assignment, answer_id, part, person)


@router.put(f"{FAMILY}/{{part}}/criteria", response=MarkingQueueOut, operation_id="set_criteria")
def set_criteria(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    family: str,
    part: Part,
    body: CriteriaIn,
) -> MarkingQueueOut:
    """Mark a part by criteria of one's own."""
    assignment = _given(request, group_id, assignment_id, "set_criteria")
    actions.set_criteria(assignment, family, part, body)
    return queries.marking_queue(assignment, current_user(request))


@router.post(f"{MARKING}/adjust", response=MarkingQueueOut, operation_id="adjust_marker")
def adjust_marker(
    request: HttpRequest, group_id: int, assignment_id: int, body: AdjustIn
) -> MarkingQueueOut:
    """Add points to what a marker gave, or take some."""
    user = current_user(request)
    assignment = _given(request, group_id, assignment_id, "adjust_marker")
    if actions.role_of(assignment, user) is MarkerRole.SECOND:
        raise Conflict(gettext("The first marker adjusts points."), code="second_marker")
    adjust(assignment, body, user)
    return queries.marking_queue(assignment, user)


@router.put(f"{MARKING}/second", response=MarkingQueueOut, operation_id="set_second_marker")
def set_second_marker(
    request: HttpRequest, group_id: int, assignment_id: int, body: SecondMarkerIn
) -> MarkingQueueOut:
    """Who marks a second time."""
    assignment = _given(request, group_id, assignment_id, "set_second_marker")
    actions.set_second_marker(assignment, body)
    return queries.marking_queue(assignment, current_user(request))


@router.post(f"{MARKING}/release", response=MarkingQueueOut, operation_id="release_marks")
def release_marks(
    request: HttpRequest, group_id: int, assignment_id: int, body: ReleaseIn
) -> MarkingQueueOut:
    """Release marks, of all that are marked or of some attempts."""
    assignment = _given(request, group_id, assignment_id, "release_marks")
    actions.release_marks(assignment, body.attempts, current_user(request), body.waived.strip())
    return queries.marking_queue(assignment, current_user(request))
