"""Endpoints of Review."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.evidence.models import Purpose
from vendaval.evidence.queries import own_run
from vendaval.evidence.record import Sent
from vendaval.evidence.schemas import AnswerIn, AnswerOut, RunStateOut
from vendaval.people.permissions import current_user, learner_only

from . import actions, queries, replies
from .schemas import MissDetailOut, MissListOut

router = Router(auth=learner_only, tags=["review"])


@router.get("/misses", response=MissListOut, operation_id="list_misses")
def misses(request: HttpRequest) -> MissListOut:
    return queries.miss_list(current_user(request))


@router.get("/misses/{int:miss_id}", response=MissDetailOut, operation_id="get_miss")
def miss(request: HttpRequest, miss_id: int) -> MissDetailOut:
    user = current_user(request)
    return queries.miss_detail(user, actions.own_miss(user, miss_id))


@router.post("/misses/{int:miss_id}/fresh", response=RunStateOut, operation_id="start_mend")
def fresh(request: HttpRequest, miss_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(actions.start_mend(user, miss_id), user)


@router.post(
    "/misses/{int:miss_id}/set-aside", response=MissDetailOut, operation_id="set_aside_miss"
)
def set_aside(request: HttpRequest, miss_id: int) -> MissDetailOut:
    user = current_user(request)
    actions.set_aside(user, miss_id)
    return queries.miss_detail(user, actions.own_miss(user, miss_id))


@router.get("/runs/{int:run_id}", response=RunStateOut, operation_id="get_mend")
def run(request: HttpRequest, run_id: int) -> RunStateOut:
    user = current_user(request)
    return replies.run_state(own_run(user, run_id, Purpose.MISSED), user)


@router.post("/questions/{int:question_id}/answer", response=AnswerOut, operation_id="answer_mend")
def answer(request: HttpRequest, question_id: int, body: AnswerIn) -> AnswerOut:
    answered = actions.submit(
        current_user(request),
        question_id,
        Sent(body.replay_key, body.responses, body.confidence),
    )
    return replies.reply(answered)
