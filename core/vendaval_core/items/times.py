"""Reading a time of day as people type it."""

from __future__ import annotations

import re

from vendaval_core.language import gettext

from .reading import LONGEST, Unreadable, plain_text

_TIME = re.compile(
    r"(?:(\d{1,2})\s*(?:[:.,h]\s*|\s)(\d{2})|(\d{1,2})(\d{2})|(\d{1,2})(?=\s*[ap]))"
    r"\s*(?:h|hrs?|hours?)?\s*(?:([ap])\.?\s*m\.?)?\s*\(?(?:utc?|gmt|z)?\)?\.?"
)


def read_time(text: str) -> int | Unreadable:
    """Read a time of day from 09:10, 9.10, 9h10, 0910, 910, 9 10 or 9:10 am, with hrs or UTC after
    it, as minutes after midnight."""
    plain = plain_text(text)[:LONGEST].lower()
    if not plain:
        return Unreadable(gettext("You haven’t typed anything yet."))
    match = _TIME.fullmatch(plain)
    if match is None:
        return Unreadable(
            gettext("“{plain}” isn’t a time. Write it like this: 09:10.").format(plain=plain[:40])
        )
    half = match.group(6)
    hour, minute = (int(group) for group in (*filter(None, match.groups()[:5]), "0")[:2])
    if half is not None:
        hour = hour % 12 + (12 if half == "p" else 0) if 1 <= hour <= 12 else 24
    if hour > 23 or minute > 59:
        return Unreadable(
            gettext("“{plain}” isn’t a time of day. Hours go up to 23, minutes up to 59.").format(
                plain=plain
            )
        )
    return hour * 60 + minute
