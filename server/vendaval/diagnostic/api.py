"""Endpoints of the diagnostic."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.bank.queries import default_course
from vendaval.evidence.models import Purpose, TryKind
from vendaval.evidence.queries import own_run
from vendaval.evidence.record import Sent
from vendaval.evidence.schemas import AnswerIn, AnswerOut, ReplayIn, RunStateOut, Strict
from vendaval.people.permissions import current_user, learner_only

from . import actions, replies

router = Router(auth=learner_only, tags=["diagnostic"])


class StartDiagnosticIn(Strict):
    """subject: its key, or null for all."""

    subject: str | None = None


@router.post("/runs", response=RunStateOut, operation_id="start_diagnostic")
def start(request: HttpRequest, body: StartDiagnosticIn) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.start_run(user, default_course(), body.subject), user)


@router.get("/runs/{int:run_id}", response=RunStateOut, operation_id="get_diagnostic")
def get(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(own_run(user, run_id, Purpose.DIAGNOSTIC), user)


@router.post("/runs/{int:run_id}/go-on", response=RunStateOut, operation_id="go_on_diagnostic")
def go_on(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.go_on(user, run_id), user)


@router.post("/runs/{int:run_id}/finish", response=RunStateOut, operation_id="finish_diagnostic")
def finish(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.finish(user, run_id), user)


@router.post(
    "/questions/{int:question_id}/answer", response=AnswerOut, operation_id="answer_diagnostic"
)
def answer(request: HttpRequest, question_id: int, body: AnswerIn) -> AnswerOut:
    answered = actions.submit(
        current_user(request),
        question_id,
        Sent(body.replay_key, body.responses, body.confidence),
    )
    return replies.reply(answered)


@router.post(
    "/questions/{int:question_id}/not-taught", response=AnswerOut, operation_id="not_taught"
)
def not_taught(request: HttpRequest, question_id: int, body: ReplayIn) -> AnswerOut:
    answered = actions.submit(
        current_user(request),
        question_id,
        Sent(body.replay_key, {}, kind=TryKind.NOT_TAUGHT),
    )
    return replies.reply(answered)


@router.post(
    "/questions/{int:question_id}/take-back", response=RunStateOut, operation_id="take_back"
)
def take_back(request: HttpRequest, question_id: int, body: ReplayIn) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.undo_not_taught(user, question_id, body.replay_key), user)


@router.post(
    "/questions/{int:question_id}/swap", response=RunStateOut, operation_id="swap_question"
)
def swap(request: HttpRequest, question_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.swap(user, question_id), user)
