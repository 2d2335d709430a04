"""What the browser gets with a question beside its parts: sounds, and pieces of an answer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, cast

from pydantic import BaseModel

from vendaval.bank.models import PictureData
from vendaval_core.items.drawn import Frame, Picture

Blast = Literal["short", "long", "gap", "bell", "gong"]


class SoundOut(BaseModel):
    """Blasts to play, and what they are in words where the author allows it."""

    blasts: list[Blast]
    words: str | None


class PieceOut(BaseModel):
    """One pair, cell, gap or point: given beside right; null where nothing was answered."""

    label: str
    given: str | None
    right: str
    ok: bool | None


def stored_picture(data: PictureData | None) -> Picture | None:
    """A picture as the bank keeps it."""
    if data is None:
        return None
    frames = tuple(Frame(frame.svg, frame.says) for frame in data.frames)
    return Picture(data.svg, data.alt, frames=frames, start=data.start, label=data.label)


def sound_out(blasts: Sequence[str], words: str) -> SoundOut | None:
    """Blasts and their alternative."""
    if not blasts:
        return None
    return SoundOut(blasts=[cast(Blast, blast) for blast in blasts], words=words or None)
