"""What tutors write to a group or to single learners: a message, and with the day's mail."""

from __future__ import annotations

from datetime import timedelta
from typing import Annotated

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router
from pydantic import BaseModel, Field

from vendaval.exams.assigning.actions import learners_asked_for
from vendaval.groups.models import Group
from vendaval.groups.queries import own_group
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.models import User
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared import clock
from vendaval.shared.errors import TooMany
from vendaval.work.schemas import Strict

from .models import GroupMessage

router = Router(auth=signed_in, tags=["tutor"])
MESSAGES = "/groups/{int:group_id}/messages"
MOST_A_DAY, MOST_SHOWN, LONGEST = 30, 20, 1000
A_DAY = timedelta(days=1)


class MessageIn(Strict):
    """What a tutor writes; learners: to whom, or null for the whole group."""

    text: Annotated[str, Field(min_length=1, max_length=LONGEST)]
    learners: Annotated[list[int], Field(min_length=1, max_length=400)] | None = None


class MessageOut(BaseModel):
    """Something that was written. `to`: names, or nobody's for the whole group."""

    text: str
    by: str
    to: list[str]
    at: str


class MessagesOut(BaseModel):
    """What was written to a group, the newest first."""

    messages: list[MessageOut]


def _messages(group: Group) -> MessagesOut:
    rows = GroupMessage.objects.filter(group=group).select_related("by")
    newest = rows.prefetch_related("to__person").order_by("-pk")[:MOST_SHOWN]
    return MessagesOut(
        messages=[
            MessageOut(
                text=row.text,
                by="" if row.by is None else row.by.display_name,
                to=[] if row.whole_group else sorted(x.person.display_name for x in row.to.all()),
                at=row.at.isoformat(),
            )
            for row in newest
        ]
    )


def write(group: Group, wanted: MessageIn, by: User) -> GroupMessage:
    """Write to the group, or to the learners named. TooMany for whoever has written very much."""
    learners, now = learners_asked_for(group, wanted.learners), clock.now()
    if GroupMessage.objects.filter(by=by, at__gt=now - A_DAY).count() >= MOST_A_DAY:
        says = gettext("You’ve written {most} messages today. Write again tomorrow.")
        raise TooMany(says.format(most=MOST_A_DAY), code="many_messages", after=3600)
    with transaction.atomic():
        row = GroupMessage.objects.create(
            group=group,
            by=by,
            text=wanted.text.strip(),
            whole_group=wanted.learners is None,
            at=now,
        )
        row.to.set(learners)
        tell(
            [one.person for one in learners],
            NoticeKind.MESSAGE,
            gettext("{tutor} writes to you").format(tutor=by.display_name),
            f"/courses/{group.course.key}",
            row.text,
        )
    return row


@router.get(MESSAGES, response=MessagesOut, operation_id="list_group_messages")
def list_group_messages(request: HttpRequest, group_id: int) -> MessagesOut:
    """What was written to a group."""
    return _messages(own_group(current_user(request), group_id, "list_group_messages"))


@router.post(MESSAGES, response=MessagesOut, operation_id="write_group")
def write_group(request: HttpRequest, group_id: int, body: MessageIn) -> MessagesOut:
    """Write to a group or to some of its learners."""
    user = current_user(request)
    group = own_group(user, group_id, "write_group")
    write(group, body, user)
    return _messages(group)
