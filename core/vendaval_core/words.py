"""Sentences that carry counts: the one place for a number and its noun, and for many names."""

from __future__ import annotations

from collections.abc import Sequence

from .language import gettext, ngettext


def sentence_of_share(part: int, whole: int, noun: str, state: str) -> str:
    """Return a sentence on part of a whole, such as "One of three topics is still open"."""
    verb = ngettext("is", "are", part)
    return f"{share_of(part, whole, noun).capitalize()} {verb} {state}."


NUMBERS = ("none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def in_words(number: int) -> str:
    """Return a small number as a word, and others in figures."""
    return gettext(NUMBERS[number]) if number < len(NUMBERS) else str(number)


def counted(number: int, one: str, many: str | None = None) -> str:
    """Return a number with its noun: no misses, one miss, 12 misses."""
    noun = ngettext(one, many or one + "s", number)
    return f"{in_words(number) if number else gettext('no')} {noun}"


def are(number: int) -> str:
    """Return how many are something: nobody is, one is, three are."""
    if number == 0:
        return gettext("nobody is")
    return counted(number, "is", "are")


def minutes_words(minutes: float) -> str:
    """Return a length in minutes, the same way everywhere."""
    return gettext("{minutes} min").format(minutes=round(minutes))


def some_of(words: Sequence[str]) -> str:
    """Return up to three words in a row, and how many more there are."""
    if not words:
        return gettext("nothing")
    if len(words) > 3:
        *others, last = *words[:3], counted(len(words) - 3, "other")
    else:
        *others, last = words
    if not others:
        return last
    return gettext("{words} and {last}").format(words=", ".join(others), last=last)


def some_have(names: Sequence[str], one: str = "has", several: str = "have") -> str:
    """Return names with a verb that agrees: Ana has, Ana and Bea have."""
    return f"{some_of(names)} {ngettext(one, several, len(names))}"


def share_of(part: int, whole: int, noun: str) -> str:
    """Return part of a whole: one of three topics, none of six topics."""
    return gettext("{part} of {whole}").format(part=in_words(part), whole=counted(whole, noun))
