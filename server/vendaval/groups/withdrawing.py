"""Work taken back from a group: gone for everybody at once, and given back for a day if asked."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.utils.translation import gettext
from pydantic import BaseModel

from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .models import GivenToGroup, Group

CAN_BE_UNDONE = timedelta(days=1)


class TakenBackOut(BaseModel):
    """Work that was taken back and can be given back `until` then."""

    id: int
    title: str
    until: datetime


def take_back(row: GivenToGroup) -> None:
    """Take work back. What was taken back longer ago, here, is thrown away with it."""
    now, kind = clock.now(), type(row)
    row.taken_back_at = now
    row.save(update_fields=["taken_back_at"])
    old = kind.with_taken_back.filter(group=row.group_id, taken_back_at__lt=now - CAN_BE_UNDONE)
    old.delete()


def give_back(kind: type[GivenToGroup], group: Group, pk: int) -> None:
    """Undo that. NotFound for what was not taken back, or too long ago."""
    found = _taken_back(kind, group).filter(pk=pk).first()
    if found is None:
        raise NotFound(gettext("This can't be undone any more."))
    found.taken_back_at = None
    found.save(update_fields=["taken_back_at"])


def taken_back(kind: type[GivenToGroup], group: Group, title: str) -> list[TakenBackOut]:
    """Work of a group that can be given back, the latest first. title: path to its title."""
    rows = (
        _taken_back(kind, group)
        .order_by("-taken_back_at")
        .values_list("pk", title, "taken_back_at")
    )
    return [TakenBackOut(id=pk, title=said, until=at + CAN_BE_UNDONE) for pk, said, at in rows[:20]]


def _taken_back(kind: type[GivenToGroup], group: Group) -> Any:
    since = clock.now() - CAN_BE_UNDONE
    return kind.with_taken_back.filter(group=group, taken_back_at__gte=since)
