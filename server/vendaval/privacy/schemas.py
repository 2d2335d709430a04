"""What a browser gets about copies of data."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from .models import DataCopy


class DataCopyOut(BaseModel):
    """A copy of somebody's data: none asked for, being made, or ready to be fetched until then."""

    state: Literal["none", "making", "ready"]
    asked_at: datetime | None = None
    until: datetime | None = None
    megabytes: float | None = None


def copy_out(row: DataCopy | None) -> DataCopyOut:
    if row is None:
        return DataCopyOut(state="none")
    if row.ready_at is None:
        return DataCopyOut(state="making", asked_at=row.asked_at)
    return DataCopyOut(
        state="ready",
        asked_at=row.asked_at,
        until=row.gone_at,
        megabytes=round(row.size / 1e6, 1),
    )
