"""Letters beside an angle: what it is counted from (T, M, C), or its name (E, W, N, S)."""

from __future__ import annotations

import re
from typing import Literal

from vendaval_core.language import gettext

from .reading import Unreadable

Letter = Literal["", "T", "M", "C", "E", "W", "N", "S"]
GROUPS = ("TMC", "EW", "NS")
_NAMES = {
    "true": "T",
    "magnetic": "M",
    "mag": "M",
    "compass": "C",
    "east": "E",
    "west": "W",
    "north": "N",
    "south": "S",
}
_AFTER = re.compile(rf"(?<=[\d°º′'\s])\s*\(?({'|'.join(_NAMES)}|[TMCEWNS])\)?\.?$", re.IGNORECASE)


def read_letter(plain: str, letter: Letter, *, asked: bool) -> tuple[str, str] | Unreadable:
    """Return the text before a letter, and the letter if it contradicts the question's.

    letter: that belongs to the answer, "" for none. asked: whether the answer is an angle, beside
    which letters are usual. A letter of another kind can't apply, so it is asked about.
    """
    match = _AFTER.search(plain) if asked else None
    if match is None:
        return plain, ""
    name = match.group(1).lower()
    typed = _NAMES.get(name, name.upper())
    before = plain[: match.start()].strip()
    if typed == letter:
        return before, ""
    if any(typed in group and letter in group for group in GROUPS if letter):
        return before, typed
    return Unreadable(
        gettext("Write only the number, without “{letter}”.").format(letter=match.group(1))
    )
