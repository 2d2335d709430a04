"""Sentences that carry counts: the one place for a number and its noun, and for many names."""

from __future__ import annotations

from collections.abc import Sequence

from .language import gettext, ngettext


def sentence_of_share(part: int, whole: int, noun: str, state: str) -> str:
    """A sentence on a part of a whole: One of three topics is still open."""
    verb = ngettext("is", "are", part)
    return f"{share_of(part, whole, noun).capitalize()} {verb} {state}."


NUMBERS = ("none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def in_words(number: int) -> str:
    """A small number as a word, others in figures."""
    return gettext(NUMBERS[number]) if number < len(NUMBERS) else str(number)


def counted(number: int, one: str, many: str | None = None) -> str:
    """A number and its noun: no misses, one miss, 12 misses."""
    noun = ngettext(one, many or one + "s", number)
    return f"{in_words(number) if number else gettext('no')} {noun}"


def some_of(words: Sequence[str]) -> str:
    """Some of many words in a row: three, and how many more."""
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
    """Names with the verb that goes with as many: Ana has, Ana and Bea have."""
    return f"{some_of(names)} {ngettext(one, several, len(names))}"


def share_of(part: int, whole: int, noun: str) -> str:
    """A part of a whole: one of three topics, none of six topics."""
    return gettext("{part} of {whole}").format(part=in_words(part), whole=counted(whole, noun))
