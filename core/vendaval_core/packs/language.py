"""Generated sentences: articles, numbers and their nouns, courses in three figures."""

from __future__ import annotations

import re
from collections.abc import Iterator

from vendaval_core.language import gettext, gettext_noop

from ..items.versions import Version

_COUNTED = "mile|cable|knot|metre|hour|minute|second|degree|litre|day|twelfth|blast|light|third"
_NOT_BEFORE = r"(?<![\d.,:/×−-])\b"
_FAULTS = (
    (rf"{_NOT_BEFORE}(?:1|one) (?:{_COUNTED})s\b", gettext_noop("has no plural")),
    (
        rf"{_NOT_BEFORE}(?:[2-9]|\d{{2,}}|\d+[.,]\d+|two|three|four|five|six|seven|eight|nine|ten) "
        rf"(?:{_COUNTED})\b(?!-|[ -]\w+(?:ed|ing)\b)",
        "wants a plural",
    ),
    (
        r"\ba (?:\*{1,2})?(?:east|even|ebb|open|old|hour|angle|anchor|arrow|error|echo|island|"
        r"inshore|offshore|outgoing|incoming|easterly|8|11|18|80|eight|eleven|eighteen|eighty)",
        "wants “an”",
    ),
    (
        r"\ban (?:\*{1,2})?(?!eight|eleven|eighteen|eighty|8|11\b|18\b|80|hour|honest|[aeiou]|"
        r"[AEFHILMNORSX]\b|[AEFHILMNORSX][A-Z])\w+",
        "wants “a”",
    ),
    (r"\b(?!that\b|had\b|mayday\b|pan\b)(\w+) \1\b", gettext_noop("is there twice")),
    (
        r"\b(?:course|courses|bearing|bearings|heading|headings|steer|steers|track)\b"
        r"(?: of| is|:)? \*{0,2}\d{1,2}°(?! [EW])",
        gettext_noop("needs three figures"),
    ),
    (r"\d° \d(?:\.\d+)?′", gettext_noop("needs two figures for the minutes")),
    (r"\w+,? (?=[,.;:?!](?:\s|$))|(?-i:\bNone\b|\bnan\b)|-0\b", gettext_noop("reads oddly")),
)
FAULTS = tuple((re.compile(pattern, re.IGNORECASE), what) for pattern, what in _FAULTS)


def texts_of(version: Version) -> Iterator[tuple[str, str]]:
    """Every sentence of a version that a learner may read, by field."""
    yield "title", version.title
    yield "prompt", version.prompt
    yield from ((f"hints.{i}", text) for i, text in enumerate(version.hints))
    yield from ((f"solution.{i}", text) for i, text in enumerate(version.solution))
    for key in version.parts:
        yield from ((f"parts.{key.id}", text) for text in key.texts())


def language_faults(text: str) -> Iterator[str]:
    """What reads wrongly in a sentence."""
    for pattern, what in FAULTS:
        yield from (f"“{found.group()}” {gettext(what)}" for found in pattern.finditer(text))
