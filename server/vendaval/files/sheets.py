"""Pages made of the files that learners send: drawn anew in a sandbox."""

from __future__ import annotations

from dataclasses import dataclass

from django.conf import settings
from django.utils.translation import gettext

from vendaval.shared.errors import Unprocessable
from vendaval.shared.sandbox import in_sandbox

DRAWING = "vendaval.files.drawing"


@dataclass(frozen=True, slots=True)
class Sheet:
    """A page as JPEG, in full and small."""

    full: bytes
    small: bytes


def sheets_of(data: bytes, most: int, who: str) -> list[Sheet]:
    """Pages of a file: one of a picture, all of a document. Unprocessable, with what is wrong with
    it, when it can't be read or has more than `most`; Conflict when another of `who` is being
    read."""
    if not data:
        raise Unprocessable(gettext("The file is empty."), fields={"file": "empty"})
    _, parts = in_sandbox(DRAWING, {"most": most, "heic": settings.HEIC}, data, who=who)
    return [Sheet(full, small) for full, small in zip(parts[::2], parts[1::2], strict=True)]


def turned(full: bytes, quarters: int, who: str) -> Sheet:
    """A page turned clockwise by so many quarters."""
    _, (large, small) = in_sandbox(DRAWING, {"turn": quarters}, full, who=who)
    return Sheet(large, small)
