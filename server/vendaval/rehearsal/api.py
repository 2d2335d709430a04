"""Endpoints of the rehearsal."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.bank.queries import default_course
from vendaval.people.permissions import learner_only

from . import queries
from .schemas import RehearsalOut, TriedOut, TryIn

router = Router(auth=learner_only, tags=["rehearsal"])


@router.get("", response=RehearsalOut, operation_id="get_rehearsal")
def rehearsal(request: HttpRequest) -> RehearsalOut:
    return queries.rehearsal(default_course())


@router.post("/{slug:key}", response=TriedOut, operation_id="try_rehearsal")
def try_out(request: HttpRequest, key: str, body: TryIn) -> TriedOut:
    return queries.try_out(default_course(), key, body.responses)
