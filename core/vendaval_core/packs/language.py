"""Generated sentences: articles, numbers and their nouns, courses in three figures."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..items.keys import (
    AssociateKey,
    ChoiceKey,
    NumberKey,
    OrderKey,
    SlotsKey,
    TextKey,
    TimeKey,
)
from ..items.versions import Version

# Nouns that take a plural s and stand behind counts in courses; a check names what it finds.
_ONE = re.compile(
    r"(?<![\d.,:/×−-])\b(?:1|one) (mile|cable|knot|metre|hour|minute|second|degree|litre|day|"
    r"twelfth|blast|light|boat|ship|step|length|third)s\b",
    re.IGNORECASE,
)
_MANY = re.compile(
    r"(?<![\d.,:/×−-])\b(?:[2-9]|\d{2,}|\d+[.,]\d+|two|three|four|five|six|seven|eight|nine|ten) "
    r"(mile|cable|knot|metre|hour|minute|second|litre|day|twelfth|blast)"
    r"\b(?!-|[ -]\w+(?:ed|ing)\b)",
    re.IGNORECASE,
)
_A_VOWEL = re.compile(
    r"\ba (?:\*{1,2})?(east|even|ebb|open|old|hour|angle|anchor|arrow|error|echo|island|inshore|"
    r"offshore|outgoing|incoming|easterly|8|11|18|80|eight|eleven|eighteen|eighty)",
    re.IGNORECASE,
)
_AN_CONSONANT = re.compile(
    r"\ban (?:\*{1,2})?(?!eight|eleven|eighteen|eighty|8|11\b|18\b|80|hour|honest|[aeiou]|"
    r"[AEFHILMNORSX]\b|[AEFHILMNORSX][A-Z])(\w+)",
)
_TWICE = re.compile(r"\b(\w+) \1\b", re.IGNORECASE)
_TWICE_MEANT = {"that", "had", "mayday", "pan"}
_COURSE = re.compile(
    r"\b(?:course|courses|bearing|bearings|heading|headings|steer|steers|track)\b(?: of| is|:)? "
    r"\*{0,2}(\d{1,2})°(?! [EW])"
)
_MINUTES = re.compile(r"\d° (\d)(?:\.\d+)?′")
_SPACES = re.compile(r"[a-z,] (?=[,.;:?!](?:\s|$))|\bNone\b|\bnan\b|-0\b")


def texts_of(version: Version) -> Iterator[tuple[str, str]]:
    """Every sentence of a version that a learner may read, by field."""
    yield "title", version.title
    yield "prompt", version.prompt
    yield from ((f"hints.{i}", text) for i, text in enumerate(version.hints))
    yield from ((f"solution.{i}", text) for i, text in enumerate(version.solution))
    for key in version.parts:
        where = f"parts.{key.id}"
        yield where, key.label
        match key:
            case ChoiceKey():
                yield where, key.text
                for choice in key.choices:
                    yield where, choice.text
                    yield where, choice.says or ""
            case OrderKey() | AssociateKey():
                yield from ((where, item.text) for item in key.items)
            case SlotsKey():
                yield from ((where, token.text) for token in key.tokens)
            case NumberKey() | TimeKey() | TextKey():
                yield from ((where, miss.says) for miss in key.near_misses)


def language_faults(text: str) -> Iterator[str]:
    """What reads wrongly in a sentence."""
    for found in _ONE.finditer(text):
        yield f"“{found.group()}”: one takes no plural"
    for found in _MANY.finditer(text):
        yield f"“{found.group()}” wants a plural"
    for found in _A_VOWEL.finditer(text):
        yield f"“{found.group()}” wants “an”"
    for found in _AN_CONSONANT.finditer(text):
        yield f"“{found.group()}” wants “a”"
    for found in _TWICE.finditer(text):
        if found.group(1).lower() not in _TWICE_MEANT:
            yield f"“{found.group()}” stands twice"
    for found in _COURSE.finditer(text):
        yield f"“{found.group()}” wants three figures"
    for found in _MINUTES.finditer(text):
        yield f"“{found.group()}” wants two figures for minutes"
    for found in _SPACES.finditer(text):
        yield f"“{text[max(0, found.start() - 15) : found.end() + 5]}” reads oddly"
