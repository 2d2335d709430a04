"""Accounts as the browser sees them."""

from __future__ import annotations

from datetime import datetime

from ninja import Schema
from pydantic import ConfigDict, Field

from .models import Role


class SignInIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)
    code: str = Field(default="", max_length=20)


class DemoSignInIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(min_length=1, max_length=150)


class AccountOut(Schema):
    """The account signed in. `id` keeps what a browser holds for one account from another.
    `practising`: it is somebody's practice learner, and nothing it does counts."""

    id: int
    name: str
    roles: list[Role]
    practising: bool


class CodeOut(Schema):
    """A code to hand on, as it is read out, and until when it opens something."""

    code: str
    ends_at: datetime


class CodeIn(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(min_length=4, max_length=20)


class LinkOut(Schema):
    """A guardian and a learner. `id` is the link's, to end it by."""

    id: int
    name: str
    since: datetime


class LinksOut(Schema):
    """Who reads my pages, and whose I read."""

    guardians: list[LinkOut]
    wards: list[LinkOut]


class DemoAccountOut(Schema):
    username: str
    name: str
    note: str


class SessionOut(Schema):
    """`account` is null when nobody is signed in; demo accounts are listed where switched on."""

    account: AccountOut | None
    demo_accounts: list[DemoAccountOut]
