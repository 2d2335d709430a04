"""Text with `[[ expression ]]` in it."""

from __future__ import annotations

import re
from collections.abc import Mapping

from .expressions import Value, evaluate, fixed

_UNIT_SPACE = re.compile(r"(?<=\d) (?=(?:m|km|ft|M|kn|h|min|s|hPa|cables)\b)")
SLOT = re.compile(r"\[\[(.+?)\]\]", re.DOTALL)


def fill(text: str, variables: Mapping[str, Value]) -> str:
    """Return the text with every slot replaced by its value. ExpressionError for a faulty slot."""

    def replace(match: re.Match[str]) -> str:
        return shown(evaluate(match.group(1), variables))

    return SLOT.sub(replace, text)


def shown(value: Value) -> str:
    """Return a value as a reader sees it: whole numbers without decimals, others as short as is
    exact."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        rounded = round(value, 6)
        digits = next(n for n in range(7) if round(rounded, n) == rounded)
        return fixed(rounded, digits)
    if isinstance(value, int):
        return str(value).replace("-", "\u2212")
    return value


def kept_together(text: str) -> str:
    """Return the text with each number and its unit kept on one line."""
    return _UNIT_SPACE.sub("\u00a0", text)
