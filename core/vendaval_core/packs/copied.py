"""Whether a prompt gives its answer away: everything in it that can be typed back, typed back."""

from __future__ import annotations

import re
from collections.abc import Iterator

from vendaval_core.language import gettext

from ..items.versions import Version

_VALUE = re.compile(
    r"[-\u2212]?\d+(?:[.,:]\d+)?(?:\s*[^\W\d_]+(?:/\w+)?|\s*[°′%](?:\s*\d+[.,]?\d*\s*′)?)?"
)
_MARKUP = re.compile(r"[*$\\{}]|\[\[.*?\]\]")


def values_in(text: str) -> list[str]:
    """Return the numbers of a text, each alone and with the word or sign after it."""
    plain = _MARKUP.sub("", text).replace("\u00a0", " ")
    found: dict[str, None] = {}
    for match in _VALUE.finditer(plain):
        whole = match.group().strip()
        found[whole] = None
        number = re.match(r"[-\u2212]?[\d.,:]+", whole)
        if number is not None:
            found[number.group()] = None
    return list(found)


def copied_faults(version: Version) -> Iterator[tuple[str, str]]:
    """Yield the parts whose right answer can be copied from the prompt, with what is copied."""
    asked = values_in(version.prompt)
    for key in version.parts:
        for text in asked:
            if key.right_when_typed(text):
                yield (
                    f"parts.{key.id}",
                    gettext("“{text}” of the prompt, typed back, is right").format(text=text),
                )
