"""Accounts as the browser sees them."""

from __future__ import annotations

from ninja import Schema
from pydantic import ConfigDict, Field

from .models import Role


class SignInIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


class DemoSignInIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(min_length=1, max_length=150)


class AccountOut(Schema):
    """The account signed in. `id` keeps what a browser holds for one account from another."""

    id: int
    name: str
    roles: list[Role]


class DemoAccountOut(Schema):
    username: str
    name: str
    note: str


class SessionOut(Schema):
    """`account` is null when nobody is signed in; demo accounts are listed where switched on."""

    account: AccountOut | None
    demo_accounts: list[DemoAccountOut]
