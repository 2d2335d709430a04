"""Names of people as they are kept: one line of plain text."""

from __future__ import annotations

import unicodedata

NAME_LENGTH = 80
# Signs that turn the direction of what follows: a name with one could read as another's.
TURNING = frozenset("\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069")


def plain_name(text: str) -> str:
    """A name in composed form (Unicode Standard Annex 15, NFC) with single spaces.

    ValueError, in a sentence, for what is no name in one line: nothing at all, too much, line
    breaks and other control signs, and signs that turn the direction of writing (Unicode Technical
    Report 36 tells what they are misused for).
    """
    if any(unicodedata.category(sign) in {"Cc", "Zl", "Zp"} or sign in TURNING for sign in text):
        raise ValueError("Write the name on one line, without special characters.")
    name = " ".join(unicodedata.normalize("NFC", text).split())
    if not 0 < len(name) <= NAME_LENGTH:
        raise ValueError(f"Enter a name of at most {NAME_LENGTH} letters.")
    return name
