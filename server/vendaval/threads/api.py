"""Endpoints of threads: help and faults."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require

from . import actions, queries
from .access import classmates_of, tutors_of
from .models import ThreadState
from .schemas import (
    AskHelpIn,
    ClassmateOut,
    ClassmatesOut,
    ContestIn,
    ReplyIn,
    ReportFaultIn,
    SettleIn,
    ThreadOut,
    ThreadsOut,
)

router = Router(auth=signed_in, tags=["threads"])
COURSE, THREAD = "/courses/{slug:course}", "/threads/{int:thread_id}"
State = Literal["open", "answered", "settled"] | None
MOST_CLASSMATES = 200


@router.get(f"{COURSE}/classmates", response=ClassmatesOut, operation_id="list_classmates")
def list_classmates(request: HttpRequest, course: CourseKey) -> ClassmatesOut:
    """Whom I may ask for help."""
    enrolment = own_enrolment(current_user(request), course, "list_classmates")
    rows = classmates_of(enrolment).order_by("display_name", "pk")[:MOST_CLASSMATES]
    return ClassmatesOut(
        tutors=[one.display_name for one in tutors_of(enrolment).order_by("display_name")],
        classmates=[ClassmateOut(id=one.pk, name=one.display_name) for one in rows],
    )


@router.post(
    COURSE + "/questions/{int:question_id}/ask", response=ThreadOut, operation_id="ask_help"
)
def ask_help(
    request: HttpRequest, course: CourseKey, question_id: int, body: AskHelpIn
) -> ThreadOut:
    """Ask the tutor, classmates or both about a question; it goes with the answer given."""
    user = current_user(request)
    return queries.thread_page(user, actions.ask_help(user, course, question_id, body).pk)


@router.post(
    COURSE + "/questions/{int:question_id}/fault", response=ThreadOut, operation_id="report_fault"
)
def report_fault(
    request: HttpRequest, course: CourseKey, question_id: int, body: ReportFaultIn
) -> ThreadOut:
    """Tell the authors that a question seems faulty."""
    user = current_user(request)
    return queries.thread_page(user, actions.report_fault(user, course, question_id, body).pk)


@router.post(
    COURSE + "/questions/{int:question_id}/contest",
    response=ThreadOut,
    operation_id="contest_mark",
)
def contest_mark(
    request: HttpRequest, course: CourseKey, question_id: int, body: ContestIn
) -> ThreadOut:
    """Contest the mark of a question of a test."""
    user = current_user(request)
    return queries.thread_page(user, actions.contest(user, course, question_id, body).pk)


def _state(state: State) -> ThreadState | None:
    return ThreadState(state) if state else None


@router.get("/threads", response=ThreadsOut, operation_id="list_threads")
def list_threads(request: HttpRequest, state: State = None, older: int | None = None) -> ThreadsOut:
    """Threads I began or was asked in."""
    user = current_user(request)
    require("list_threads", user.roles, Relation.OWN)
    rows = queries.threads_of(user)
    return queries.thread_list(user, rows, state=_state(state), topic=None, older=older)


@router.get("/inbox", response=ThreadsOut, operation_id="list_inbox")
def list_inbox(
    request: HttpRequest,
    state: State = None,
    topic: str | None = None,
    group: int | None = None,
    older: int | None = None,
) -> ThreadsOut:
    """Help that the learners of my groups ask for, and marks they contest."""
    user = current_user(request)
    require("list_inbox", user.roles, Relation.OWN)
    rows = queries.inbox_of(user)
    if group is not None:
        in_group = {"enrolment__groups__group": group, "enrolment__groups__until": None}
        rows = rows.filter(**in_group)
    return queries.thread_list(user, rows, state=_state(state), topic=topic, older=older)


@router.get("/faults", response=ThreadsOut, operation_id="list_faults")
def list_faults(
    request: HttpRequest,
    state: State = None,
    topic: str | None = None,
    older: int | None = None,
) -> ThreadsOut:
    """Reports of faults in the courses I write for."""
    user = current_user(request)
    require("list_faults", user.roles, Relation.OWN)
    rows = queries.faults_of(user)
    return queries.thread_list(user, rows, state=_state(state), topic=topic, older=older)


@router.get(THREAD, response=ThreadOut, operation_id="get_thread")
def get_thread(request: HttpRequest, thread_id: int) -> ThreadOut:
    return queries.thread_page(current_user(request), thread_id)


@router.post(f"{THREAD}/posts", response=ThreadOut, operation_id="reply_thread")
def reply_thread(request: HttpRequest, thread_id: int, body: ReplyIn) -> ThreadOut:
    user = current_user(request)
    return queries.thread_page(user, actions.reply(user, thread_id, body).pk)


@router.post(f"{THREAD}/settle", response=ThreadOut, operation_id="settle_thread")
def settle_thread(request: HttpRequest, thread_id: int, body: SettleIn) -> ThreadOut:
    """Close a thread, with what became of it."""
    user = current_user(request)
    return queries.thread_page(user, actions.settle(user, thread_id, body.says).pk)
