"""Endpoints of runs and questions, the same for every purpose."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from vendaval.bank.snapshot import version_of
from vendaval.delivery.payload import read_back_out
from vendaval.delivery.schemas import ReadBackOut
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval_core.mastery.why import why_asked

from . import actions
from .activity import activities
from .grading import Sent
from .models import TryKind
from .questions import find_presentation
from .replies import answer_out, presented, question_now, run_now, run_state
from .runs import own_run
from .schemas import (
    AnswerIn,
    AnswerOut,
    DoneOut,
    ReadBackIn,
    ReplayIn,
    RunStateOut,
    StartIn,
    WhyOut,
    WorkingOut,
)

router = Router(auth=signed_in, tags=["work"])
if TYPE_CHECKING:
    AnyStart = StartIn
else:
    AnyStart = activities().any_start
RUN, QUESTION = "/runs/{int:run_id}", "/questions/{int:question_id}"


@router.post("/runs", response=RunStateOut, operation_id="start_run")
def start_run(request: HttpRequest, course: CourseKey, body: AnyStart) -> RunStateOut:
    """Begin a run, or take up the one under way."""
    return run_state(actions.start_run(current_user(request), course, body))


@router.get(RUN, response=RunStateOut, operation_id="get_run")
def get_run(request: HttpRequest, course: CourseKey, run_id: int) -> RunStateOut:
    return run_state(own_run(current_user(request), course, run_id, "get_run"))


@router.post(f"{RUN}/go-on", response=RunStateOut, operation_id="go_on")
def go_on(request: HttpRequest, course: CourseKey, run_id: int) -> RunStateOut:
    return run_state(actions.go_on(current_user(request), course, run_id))


@router.post(f"{RUN}/finish", response=RunStateOut, operation_id="finish_run")
def finish_run(request: HttpRequest, course: CourseKey, run_id: int) -> RunStateOut:
    return run_state(actions.finish_run(current_user(request), course, run_id))


@router.post(f"{QUESTION}/answer", response=AnswerOut, operation_id="answer_question")
def answer_question(
    request: HttpRequest, course: CourseKey, question_id: int, body: AnswerIn
) -> AnswerOut:
    """Take an answer, or "I haven't been taught this", for whatever purpose it was asked."""
    kind = TryKind.NOT_TAUGHT if body.not_taught else TryKind.ANSWER
    working = None if body.working is None or body.working.empty else body.working
    sent = Sent(body.replay_key, body.responses, body.confidence, kind, working)
    return answer_out(actions.submit_try(current_user(request), course, question_id, sent))


@router.post(f"{QUESTION}/undo", response=RunStateOut, operation_id="undo")
def undo(request: HttpRequest, course: CourseKey, question_id: int, body: ReplayIn) -> RunStateOut:
    user = current_user(request)
    return run_state(actions.undo(user, course, question_id, body.replay_key))


@router.post(f"{QUESTION}/swap", response=RunStateOut, operation_id="swap_question")
def swap_question(request: HttpRequest, course: CourseKey, question_id: int) -> RunStateOut:
    return run_state(actions.swap_question(current_user(request), course, question_id))


@router.post(f"{QUESTION}/hint", response=RunStateOut, operation_id="open_hint")
def open_hint(request: HttpRequest, course: CourseKey, question_id: int) -> RunStateOut:
    question = actions.open_hint(current_user(request), course, question_id)
    return RunStateOut(run=run_now(question.run), question=question_now(question))


@router.post(f"{QUESTION}/working", response=WorkingOut, operation_id="show_working")
def show_working(request: HttpRequest, course: CourseKey, question_id: int) -> WorkingOut:
    question, following = actions.show_working(current_user(request), course, question_id)
    return WorkingOut(
        run=run_now(question.run),
        question=question_now(question),
        next=presented(following) if following else None,
    )


@router.post(f"{QUESTION}/fresh", response=RunStateOut, operation_id="fresh_version")
def fresh_version(request: HttpRequest, course: CourseKey, question_id: int) -> RunStateOut:
    return run_state(actions.fresh_version(current_user(request), course, question_id))


@router.post(f"{QUESTION}/shown", response=DoneOut, operation_id="question_shown")
def question_shown(request: HttpRequest, course: CourseKey, question_id: int) -> DoneOut:
    """The learner now sees a question that came with an earlier reply: its time begins."""
    actions.note_shown(current_user(request), course, question_id)
    return DoneOut(done=True)


@router.post(f"{QUESTION}/read-back", response=list[ReadBackOut], operation_id="read_back")
def read_back(
    request: HttpRequest, course: CourseKey, question_id: int, body: ReadBackIn
) -> list[ReadBackOut]:
    """How what is typed is read. Nothing is stored, and nothing tells right from wrong."""
    row = find_presentation(current_user(request), course, question_id, "read_back")
    return read_back_out(version_of(row.revision, row.seed, row.order), body.responses)


@router.get(f"{QUESTION}/why", response=WhyOut, operation_id="why_question")
def why_question(request: HttpRequest, course: CourseKey, question_id: int) -> WhyOut:
    """Why this question was asked, from the terms stored with it."""
    row = find_presentation(current_user(request), course, question_id, "why_question")
    terms = row.why.model_dump(exclude_none=True)
    return WhyOut(sentences=why_asked(terms, row.revision.family.topic.title))
