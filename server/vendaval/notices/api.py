"""Endpoints of messages, and of the simulated outbox."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router

from vendaval.people.models import User
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound

from . import actions
from .models import Letter, Notice, NoticeKind
from .schemas import (
    LetterOut,
    MailChoiceOut,
    MailChoicesEdit,
    MailChoicesIn,
    MailChoicesOut,
    NoticeOut,
    NoticesOut,
    OutboxOut,
    ReadIn,
)

router = Router(auth=signed_in, tags=["messages"])
PAGE, LETTERS = 30, 50


@router.get("/notices", response=NoticesOut, operation_id="list_notices")
def list_notices(request: HttpRequest, older: int | None = None) -> NoticesOut:
    """My messages, the latest first."""
    mine = Notice.objects.filter(person=current_user(request))
    rows = mine if older is None else mine.filter(pk__lt=older)
    page = list(rows.order_by("-pk")[: PAGE + 1])
    return NoticesOut(
        unread=mine.filter(read_at=None).count(),
        notices=[
            NoticeOut(
                id=row.pk,
                kind=NoticeKind(row.kind),
                title=row.title,
                text=row.text,
                path=row.path,
                at=row.at,
                read=row.read_at is not None,
            )
            for row in page[:PAGE]
        ],
        older=page[PAGE - 1].pk if len(page) > PAGE else None,
    )


@router.post("/notices/read", response=NoticesOut, operation_id="read_notices")
def read_notices(request: HttpRequest, body: ReadIn) -> NoticesOut:
    """I have seen my messages up to one."""
    actions.mark_read(current_user(request), body.upto)
    return list_notices(request)


def _mail_edit(user: User) -> MailChoicesEdit:
    kinds = [NoticeKind(kind) for kind in actions.unwanted_kinds(user)]
    return MailChoicesEdit.model_construct(unwanted=sorted(kinds))


@router.get("/notices/mail", response=MailChoicesOut, operation_id="get_mail_choices")
def get_mail_choices(request: HttpRequest) -> MailChoicesOut:
    user = current_user(request)
    edit = _mail_edit(user)
    return MailChoicesOut(
        email=user.email,
        choices=[
            MailChoiceOut(kind=kind, label=str(kind.label), by_mail=kind not in edit.unwanted)
            for kind in NoticeKind
        ],
        version=edit_version(edit),
    )


@router.put("/notices/mail", response=MailChoicesOut, operation_id="set_mail_choices")
def set_mail_choices(request: HttpRequest, body: MailChoicesIn) -> MailChoicesOut:
    """Which messages are not wanted by mail; in the application they come all the same."""
    user = current_user(request)
    with editing(user, body, lambda: _mail_edit(user)):
        actions.choose_mail(user, body.unwanted)
    return get_mail_choices(request)


@router.get("/outbox", response=OutboxOut, operation_id="list_outbox", auth=None)
def list_outbox(request: HttpRequest) -> OutboxOut:
    """Mails in the simulated outbox; only where demo accounts are switched on."""
    if not settings.DEMO_ACCOUNTS:
        raise NotFound(gettext("This installation has no outbox."))
    rows = Letter.objects.order_by("-pk")[:LETTERS]
    return OutboxOut(
        letters=[
            LetterOut(id=row.pk, to=row.to, subject=row.subject, body=row.body, at=row.at)
            for row in rows
        ]
    )
