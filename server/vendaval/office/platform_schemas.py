"""Platforms, as the office sees them in the browser."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import Strict
from vendaval.shared.editing import Edited

Address = Annotated[str, Field(min_length=1, max_length=300)]


class PlatformEdit(Strict):
    """A platform as it is registered. `deployments`: those that may launch; none for any.
    `tutors`: whether tutors may come from it."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    issuer: Address
    client_id: Annotated[str, Field(min_length=1, max_length=200)]
    login_url: Address
    token_url: Address
    keys_url: Address
    deployments: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=50)] = []
    tutors: bool = False
    on: bool = True


class PlatformIn(PlatformEdit, Edited):
    """A platform as it should be."""


class PlatformOut(PlatformEdit):
    """`people`: accounts that come from it."""

    id: int
    version: str
    people: int


class ToolOut(BaseModel):
    """Our addresses, for the platform's own settings."""

    login: str
    launch: str
    keys: str
    registration: str


class PlatformsOut(BaseModel):
    platforms: list[PlatformOut]
    ours: ToolOut
