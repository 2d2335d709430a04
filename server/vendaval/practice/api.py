"""Endpoints of practice."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from vendaval.bank.queries import default_course
from vendaval.evidence.models import Purpose
from vendaval.evidence.queries import own_run
from vendaval.evidence.record import Sent
from vendaval.evidence.schemas import AnswerIn, AnswerOut, QuestionOut, RunOut, RunStateOut, Strict
from vendaval.people.permissions import current_user, learner_only

from . import actions, replies

router = Router(auth=learner_only, tags=["practice"])


class StartPracticeIn(Strict):
    topic: str


class WorkingOut(Schema):
    """The question with its worked solution, and the next one unless reading comes first."""

    run: RunOut
    question: QuestionOut
    next: QuestionOut | None


@router.post("/runs", response=RunStateOut, operation_id="start_practice")
def start(request: HttpRequest, body: StartPracticeIn) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.start_run(user, default_course(), body.topic), user)


@router.get("/runs/{int:run_id}", response=RunStateOut, operation_id="get_practice")
def get(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(own_run(user, run_id, Purpose.PRACTICE), user)


@router.post("/runs/{int:run_id}/finish", response=RunStateOut, operation_id="finish_practice")
def finish(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.finish(user, run_id), user)


@router.post("/runs/{int:run_id}/go-on", response=RunStateOut, operation_id="go_on_practice")
def go_on(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.go_on(user, run_id), user)


@router.post(
    "/questions/{int:question_id}/answer", response=AnswerOut, operation_id="answer_practice"
)
def answer(request: HttpRequest, question_id: int, body: AnswerIn) -> AnswerOut:
    answered = actions.submit(
        current_user(request),
        question_id,
        Sent(body.replay_key, body.responses, body.confidence),
    )
    return replies.reply(answered)


@router.post("/questions/{int:question_id}/hint", response=QuestionOut, operation_id="open_hint")
def hint(request: HttpRequest, question_id: int) -> QuestionOut:
    return replies.question_now(actions.open_hint(current_user(request), question_id))


@router.post(
    "/questions/{int:question_id}/working", response=WorkingOut, operation_id="show_working"
)
def working(request: HttpRequest, question_id: int) -> WorkingOut:
    question, following = actions.show_working(current_user(request), question_id)
    run, now, after = replies.after_working(question, following)
    return WorkingOut(run=run, question=now, next=after)


@router.post(
    "/questions/{int:question_id}/fresh", response=RunStateOut, operation_id="fresh_version"
)
def fresh(request: HttpRequest, question_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.fresh_version(user, question_id), user)
