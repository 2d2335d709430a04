"""Other programs, as the office sees them in the browser."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.delivery.schemas import Strict
from vendaval.shared.editing import Edited


class RecordStoreEdit(Strict):
    """Where learning records are sent. `name`: the name the store knows us by. `since`: the day
    from which on they are sent."""

    address: Annotated[str, Field(max_length=300)]
    name: Annotated[str, Field(max_length=200)]
    on: bool
    since: date


class RecordStoreIn(RecordStoreEdit, Edited):
    """Where they should go."""


class StoreSecretIn(Strict):
    secret: Annotated[str, Field(min_length=1, max_length=200)]


class RefusedRecordOut(BaseModel):
    """A record that the store didn't take, and why."""

    what: str
    says: str


class RecordStoreOut(RecordStoreEdit):
    """`version`: to change it. `sent`: records the store has. `waiting`: to be sent; `held`: of
    those, what may not be told yet. `says`: what was wrong the last time, tried again `next_at`."""

    version: str
    has_secret: bool
    sent: int
    sent_at: datetime | None
    waiting: int
    held: int
    refused: list[RefusedRecordOut]
    refused_in_all: int
    failures: int
    says: str
    next_at: datetime | None


class StoreTrialOut(BaseModel):
    """`problem`: why the store can't be used, empty where it can."""

    problem: str
