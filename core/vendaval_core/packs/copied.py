"""Whether a prompt gives its answer away: everything in it that can be typed back, typed back."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..items.keys import CellKey, NumberKey, TableKey, TextKey, TimeKey
from ..items.model import Family
from ..items.parts import NumberEntryPart
from ..items.versions import Version
from ..scoring.marking import Verdict, mark_part

_VALUE = re.compile(
    r"[-\u2212]?\d+(?:[.,:]\d+)?(?:\s*[^\W\d_]+(?:/\w+)?|\s*[°′%](?:\s*\d+[.,]?\d*\s*′)?)?"
)
_MARKUP = re.compile(r"[*$\\{}]|\[\[.*?\]\]")


def values_in(text: str) -> list[str]:
    """Numbers of a text, each alone and with the word or sign after it."""
    plain = _MARKUP.sub("", text).replace("\u00a0", " ")
    found: dict[str, None] = {}
    for match in _VALUE.finditer(plain):
        whole = match.group().strip()
        found[whole] = None
        number = re.match(r"[-\u2212]?[\d.,:]+", whole)
        if number is not None:
            found[number.group()] = None
    return list(found)


def copied_faults(family: Family, version: Version) -> Iterator[tuple[str, str]]:
    """Parts whose right answer is something that stands in the prompt."""
    asked = values_in(version.prompt)
    for part, key in zip(family.parts, version.parts, strict=True):
        if isinstance(part, NumberEntryPart) and part.given:
            continue
        cells: tuple[CellKey, ...] = ()
        match key:
            case TableKey():
                cells = key.cells
            case NumberKey(slider=None) | TimeKey() | TextKey():
                cells = (key,)
        for cell in cells:
            for text in asked:
                if mark_part(cell, text).verdict is Verdict.RIGHT:
                    yield f"parts.{key.id}", f"“{text}” of the prompt, typed back, is right"
