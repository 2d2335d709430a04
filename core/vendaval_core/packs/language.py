"""Sentences of a course: articles, numbers and their nouns, words said twice."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext, gettext_noop

from ..items.versions import Version

_NOT_BEFORE = r"(?<![\d.,:/×−-])\b"
_MANY = r"[2-9]|\d{2,}|\d+[.,]\d+|two|three|four|five|six|seven|eight|nine|ten"
# As they are spoken: a one-way street and a unit, but an hour, an 8 and an M.
_SPOKEN_WITH_CONSONANT = r"one\b|once\b|uni|us[aeiu]|eu|ut[ei]|ur[aeiou]"
_SPOKEN_WITH_VOWEL = r"eight|eleven|8|11\b|18\b|hour|honest|[aeiou]"


@dataclass(frozen=True, slots=True)
class Language:
    """What reads wrongly in the sentences of a course: patterns, each with what is wrong."""

    faults: tuple[tuple[re.Pattern[str], str], ...]


def language(
    counted: Sequence[str] = (), three_figures: Sequence[str] = (), doubled: Sequence[str] = ()
) -> Language:
    """Return the rules of English with a course's own words.

    counted: nouns that follow numbers, in the singular. three_figures: nouns of directions, whose
    angles need three figures. doubled: words that may appear twice in a row.
    """
    twice = "|".join(rf"{word}\b" for word in ("that", "had", *doubled))
    found = [
        (
            rf"\b(?-i:a) (?:\*{{1,2}})?(?!{_SPOKEN_WITH_CONSONANT})(?:{_SPOKEN_WITH_VOWEL})",
            gettext_noop("needs “an”"),
        ),
        (
            rf"\ban (?:\*{{1,2}})?(?!(?:(?!{_SPOKEN_WITH_CONSONANT})(?:{_SPOKEN_WITH_VOWEL}))"
            r"|(?-i:[AEFHILMNORSX]\b|[AEFHILMNORSX][A-Z]))\w+",
            gettext_noop("needs “a”"),
        ),
        (rf"\b(?!{twice})(\w+) \1\b", gettext_noop("is there twice")),
        (r"\d° \d(?:\.\d+)?′", gettext_noop("needs two figures for the minutes")),
        (r"\w+,? (?=[,.;:?!](?:\s|$))|(?-i:\bNone\b|\bnan\b)|-0\b", gettext_noop("reads oddly")),
    ]
    if counted:
        nouns = "|".join(counted)
        found += [
            (rf"{_NOT_BEFORE}(?:1|one) (?:{nouns})s\b", gettext_noop("has no plural")),
            (
                rf"{_NOT_BEFORE}(?:{_MANY}) (?:{nouns})\b(?!-|[ -]\w+(?:ed|ing)\b)",
                gettext_noop("needs a plural"),
            ),
        ]
    if three_figures:
        nouns = "|".join(three_figures)
        found.append(
            (
                rf"\b(?:{nouns})s?\b(?: of| is|:)? \*{{0,2}}\d{{1,2}}°(?! [EW])",
                gettext_noop("needs three figures"),
            )
        )
    return Language(tuple((re.compile(one, re.IGNORECASE), what) for one, what in found))


ENGLISH = language()


def texts_of(version: Version) -> Iterator[tuple[str, str]]:
    """Yield every sentence of a version that a learner may read, with its field."""
    yield "title", version.title
    yield "prompt", version.prompt
    yield from ((f"hints.{i}", text) for i, text in enumerate(version.hints))
    yield from ((f"solution.{i}", text) for i, text in enumerate(version.solution))
    for key in version.parts:
        yield from ((f"parts.{key.id}", text) for text in key.texts())


def language_faults(text: str, rules: Language = ENGLISH) -> Iterator[str]:
    """Yield what is wrong with a sentence."""
    for pattern, what in rules.faults:
        yield from (f"“{found.group()}” {gettext(what)}" for found in pattern.finditer(text))
