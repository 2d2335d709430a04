"""Work that was given to several groups at once: told by one mark, changed together or apart."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from typing import Annotated, TypeVar

from django.utils.translation import gettext
from ninja import Query
from pydantic import BaseModel, Field

from vendaval.people.models import User
from vendaval.shared.errors import Unprocessable

from .models import GivenToGroup, Group
from .queries import own_group, taught_by

MOST_GROUPS = 20
Also = Annotated[list[int], Field(max_length=MOST_GROUPS)]
Together = Annotated[bool, Query(description="Whether this holds for all groups it was given to.")]
Row = TypeVar("Row", bound=GivenToGroup)


class SharedOut(BaseModel):
    """The same work in another group of mine. `id`: of the work there."""

    id: int
    group: int
    title: str


def groups_asked_for(
    person: User, group: Group, also: Sequence[int], operation: str, *, some: bool
) -> list[Group]:
    """The groups that work is for, this one first: others have to be of the same course. some:
    whether it is for some learners only, who are in one group."""
    others = [own_group(person, pk, operation) for pk in dict.fromkeys(also) if pk != group.pk]
    if any(one.course_id != group.course_id for one in others):
        says = gettext("Choose groups of the same course.")
        raise Unprocessable(says, fields={"also": says})
    if others and some:
        says = gettext("For several groups, choose the whole group.")
        raise Unprocessable(says, fields={"learners": says})
    return [group, *others]


def new_batch(groups: Sequence[Group]) -> str:
    """A mark for work of several groups; none for one."""
    return secrets.token_hex(6) if len(groups) > 1 else ""


def given_together(row: Row, person: User) -> list[Row]:
    """The same work in other groups that somebody teaches now."""
    if not row.batch:
        return []
    rows = type(row).objects.filter(batch=row.batch, group__in=taught_by(person))
    return list(rows.exclude(pk=row.pk).select_related("group__course").order_by("pk"))


def shared_out(row: GivenToGroup, person: User) -> list[SharedOut]:
    """The same, as a browser gets it."""
    return [
        SharedOut(id=one.pk, group=one.group_id, title=one.group.title)
        for one in given_together(row, person)
    ]
