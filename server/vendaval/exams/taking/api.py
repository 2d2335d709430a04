"""Endpoints of a learner's tests and attempts."""

from __future__ import annotations

from typing import Annotated, cast

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Path, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import Conflict

from ..assigning.assigned import RefKind, assigned_test
from ..models import Attempt
from . import actions, payload, queries, state
from .schemas import (
    AttemptOut,
    ClockOut,
    IntervalIn,
    MoveOnIn,
    ReceiptOut,
    SavedOut,
    SaveIn,
    ScoreSoFarOut,
    TestPageOut,
    TestsOut,
)

router = Router(auth=signed_in, tags=["tests"])
Ref = Annotated[str, Path(pattern=r"^(given|mirror|trial|rehearsal)-[0-9]{1,9}$")]
ATTEMPT = "/attempts/{int:attempt_id}"


def _parts(ref: str) -> tuple[RefKind, int]:
    kind, _, number = ref.partition("-")
    return cast(RefKind, kind), int(number)


@router.get("/tests", response=TestsOut, operation_id="list_tests")
def list_tests(request: HttpRequest, course: CourseKey) -> TestsOut:
    enrolment = own_enrolment(current_user(request), course, "list_tests")
    state.settle_learner(enrolment)
    return queries.tests_page(enrolment)


@router.get("/tests/{ref}", response=TestPageOut, operation_id="get_test")
def get_test(request: HttpRequest, course: CourseKey, ref: Ref) -> TestPageOut:
    """Everything about a test. Looking begins nothing."""
    enrolment = own_enrolment(current_user(request), course, "get_test")
    state.settle_learner(enrolment)
    return queries.test_page(assigned_test(enrolment, *_parts(ref)), enrolment)


@router.post("/tests/{ref}/start", response=AttemptOut, operation_id="start_attempt")
def start_attempt(request: HttpRequest, course: CourseKey, ref: Ref) -> AttemptOut:
    """Begin an attempt, or take up the one under way."""
    return payload.attempt_out(actions.start(current_user(request), course, *_parts(ref)))


@router.get(f"{ATTEMPT}/so-far", response=ScoreSoFarOut | None, operation_id="get_so_far")
def get_so_far(request: HttpRequest, course: CourseKey, attempt_id: int) -> ScoreSoFarOut | None:
    """Points of the questions that were sent, where the score is told at once."""
    attempt = state.own_attempt(current_user(request), course, attempt_id, "get_so_far")
    return payload.score_so_far(attempt)


@router.get(ATTEMPT, response=AttemptOut, operation_id="get_attempt")
def get_attempt(request: HttpRequest, course: CourseKey, attempt_id: int) -> AttemptOut:
    """An attempt, to be loaded before it is entered."""
    attempt = state.own_attempt(current_user(request), course, attempt_id, "get_attempt")
    return payload.attempt_out(attempt)


@router.post(f"{ATTEMPT}/enter", response=ClockOut, operation_id="enter_attempt")
def enter_attempt(request: HttpRequest, course: CourseKey, attempt_id: int) -> ClockOut:
    """Everything is loaded here: the clock starts, and this place has the attempt."""
    return payload.clock_out(actions.enter(current_user(request), course, attempt_id))


@router.post(f"{ATTEMPT}/sign", response=ClockOut, operation_id="sign_attempt")
def sign_attempt(
    request: HttpRequest, course: CourseKey, attempt_id: int, body: IntervalIn
) -> ClockOut:
    """A sign of life."""
    user = current_user(request)
    return payload.clock_out(actions.sign(user, course, attempt_id, body.interval))


@router.post(f"{ATTEMPT}/leave", response=ClockOut, operation_id="leave_attempt")
def leave_attempt(
    request: HttpRequest, course: CourseKey, attempt_id: int, body: IntervalIn
) -> ClockOut:
    user = current_user(request)
    return payload.clock_out(actions.leave(user, course, attempt_id, body.interval))


@router.post(f"{ATTEMPT}/move-on", response=AttemptOut, operation_id="move_on_attempt")
def move_on_attempt(
    request: HttpRequest, course: CourseKey, attempt_id: int, body: MoveOnIn
) -> AttemptOut:
    """Forward from a question or a section that there is no way back to."""
    user, seen = current_user(request), (body.section, body.position)
    return payload.attempt_out(actions.move_on(user, course, attempt_id, seen))


@router.put(f"{ATTEMPT}/answers/{{int:number}}", response=SavedOut, operation_id="save_answer")
def save_answer(
    request: HttpRequest, course: CourseKey, attempt_id: int, number: int, body: SaveIn
) -> SavedOut:
    """Keep what stands at a question."""
    saving = actions.Saving(body.interval, body.counter, body.data, body.seconds)
    saved = actions.save(current_user(request), course, attempt_id, number, saving)
    return payload.saved_out(saved.attempt, saved.answer, late=saved.late)


@router.post(f"{ATTEMPT}/hand-in", response=ReceiptOut, operation_id="hand_in_attempt")
def hand_in_attempt(
    request: HttpRequest, course: CourseKey, attempt_id: int, body: IntervalIn
) -> ReceiptOut:
    """Hand in; done again it changes nothing."""
    user = current_user(request)
    return _receipt(actions.give_in(user, course, attempt_id, body.interval))


@router.get(f"{ATTEMPT}/receipt", response=ReceiptOut, operation_id="get_receipt")
def get_receipt(request: HttpRequest, course: CourseKey, attempt_id: int) -> ReceiptOut:
    user = current_user(request)
    return _receipt(state.own_attempt(user, course, attempt_id, "get_receipt"))


def _receipt(attempt: Attempt) -> ReceiptOut:
    found = payload.receipt(attempt)
    if found is None:
        raise Conflict(gettext("This attempt isn’t finished yet."), code="under_way")
    return found
