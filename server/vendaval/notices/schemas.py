"""Messages as the browser sees them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from vendaval.shared.editing import Edited, sorted_once

from .models import NoticeKind


class NoticeOut(BaseModel):
    id: int
    kind: NoticeKind
    title: str
    text: str
    path: str
    at: datetime
    read: bool


class NoticesOut(BaseModel):
    """Messages, the latest first. `older`: id to ask for older ones with, null at the end."""

    unread: int
    notices: list[NoticeOut]
    older: int | None


class ReadIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    upto: Annotated[int, Field(ge=0)]


class MailChoiceOut(BaseModel):
    kind: NoticeKind
    label: str
    by_mail: bool


class MailChoicesOut(BaseModel):
    """Which messages come by mail, and to where."""

    email: str
    choices: list[MailChoiceOut]
    version: str


class MailChoicesEdit(BaseModel):
    """Kinds of message that are not wanted by mail."""

    model_config = ConfigDict(extra="forbid")
    unwanted: Annotated[list[NoticeKind], Field(max_length=20), AfterValidator(sorted_once)]


class MailChoicesIn(MailChoicesEdit, Edited):
    """The same, changed."""


class LetterOut(BaseModel):
    id: int
    to: str
    subject: str
    body: str
    at: datetime


class OutboxOut(BaseModel):
    """The simulated outbox: the latest mails that would have gone out."""

    letters: list[LetterOut]
