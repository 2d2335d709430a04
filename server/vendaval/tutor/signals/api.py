"""Endpoints of signals."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in

from .page import look_at, signals_of_group
from .schemas import LookIn, SignalsOut

router = Router(auth=signed_in, tags=["tutor"])
SIGNALS = "/groups/{int:group_id}/signals"


@router.get(SIGNALS, response=SignalsOut, operation_id="list_signals")
def list_signals(request: HttpRequest, group_id: int) -> SignalsOut:
    """What is worth asking in a group, each with its evidence and what else could explain it."""
    return signals_of_group(own_group(current_user(request), group_id, "list_signals"))


@router.post(SIGNALS, response=SignalsOut, operation_id="look_at_signal")
def look_at_signal(request: HttpRequest, group_id: int, body: LookIn) -> SignalsOut:
    """I have looked at it, and this is what came of it."""
    user = current_user(request)
    return look_at(own_group(user, group_id, "look_at_signal"), body, user)
