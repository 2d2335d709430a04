"""Keys made of titles: what files, topics and courses are called where nobody sees it."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Collection

LONGEST = 50


def as_key(title: str, instead: str) -> str:
    """Return a title as a key: small letters, digits and hyphens, a letter first. instead: what it
    begins with where the title doesn't begin with a letter."""
    plain = unicodedata.normalize("NFKD", title).encode("ascii", "ignore").decode().lower()
    words = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")
    key = words if words[:1].isalpha() else f"{instead}-{words}"
    return key[:LONGEST].strip("-")


def free_key(title: str, instead: str, taken: Collection[str]) -> str:
    """Return such a key that is none of those taken."""
    stem = as_key(title, instead)
    key, number = stem, 2
    while key in taken:
        key, number = f"{stem}-{number}", number + 1
    return key
