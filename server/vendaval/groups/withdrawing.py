"""Work withdrawn from a group: gone for everybody at once, and restored within a day if asked."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.utils.translation import gettext
from pydantic import BaseModel

from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .models import GivenToGroup, Group

CAN_BE_UNDONE = timedelta(days=1)


class WithdrawnOut(BaseModel):
    """Work that was withdrawn and can be restored `until` then."""

    id: int
    title: str
    until: datetime


def withdraw(row: GivenToGroup) -> None:
    """Withdraw work. What was withdrawn longer ago, here, is thrown away with it."""
    now, kind = clock.now(), type(row)
    row.withdrawn_at = now
    row.save(update_fields=["withdrawn_at"])
    old = kind.with_withdrawn.filter(group=row.group_id, withdrawn_at__lt=now - CAN_BE_UNDONE)
    old.delete()


def restore(kind: type[GivenToGroup], group: Group, pk: int) -> None:
    """Undo that. NotFound for what was not withdrawn, or too long ago."""
    found = _withdrawn(kind, group).filter(pk=pk).first()
    if found is None:
        raise NotFound(gettext("This can’t be undone any more."))
    found.withdrawn_at = None
    found.save(update_fields=["withdrawn_at"])


def withdrawn(kind: type[GivenToGroup], group: Group, title: str) -> list[WithdrawnOut]:
    """Work of a group that can be restored, the latest first. title: path to its title."""
    rows = (
        _withdrawn(kind, group).order_by("-withdrawn_at").values_list("pk", title, "withdrawn_at")
    )
    return [WithdrawnOut(id=pk, title=said, until=at + CAN_BE_UNDONE) for pk, said, at in rows[:20]]


def _withdrawn(kind: type[GivenToGroup], group: Group) -> Any:
    since = clock.now() - CAN_BE_UNDONE
    return kind.with_withdrawn.filter(group=group, withdrawn_at__gte=since)
