"""Text as it is kept: without signs that no person types and that files and databases choke on."""

from __future__ import annotations

import re
from typing import Any

# Control signs but for tab, line feed and carriage return (PostgreSQL keeps no NUL, XML 1.0 none of
# the others), and halves of surrogate pairs, which no encoding can write.
UNWRITABLE = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ud800-\udfff\ufffe\uffff]")
DEEPEST = 40


def plain_text(text: str) -> str:
    """Return a text without what can't be written."""
    return UNWRITABLE.sub("", text)


def plain_values(value: Any, depth: int = 0) -> Any:
    """Return what came as JSON with every text in it made plain, keys too."""
    if isinstance(value, str):
        return plain_text(value)
    if depth >= DEEPEST:
        return value
    if isinstance(value, dict):
        return {plain_text(str(k)): plain_values(v, depth + 1) for k, v in value.items()}
    if isinstance(value, list):
        return [plain_values(one, depth + 1) for one in value]
    return value
