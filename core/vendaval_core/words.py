"""Sentences that carry counts: the one place for a number and its noun, and for many names."""

from __future__ import annotations

from collections.abc import Sequence


def sentence_of_share(part: int, whole: int, noun: str, state: str) -> str:
    """A sentence on a part of a whole: One of three topics is still open."""
    return f"{share_of(part, whole, noun).capitalize()} {'is' if part == 1 else 'are'} {state}."


NUMBERS = ("none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def in_words(number: int) -> str:
    """A small number as a word, others in figures."""
    return NUMBERS[number] if number < len(NUMBERS) else str(number)


def counted(number: int, one: str, many: str | None = None) -> str:
    """A number and its noun: no misses, one miss, 12 misses."""
    noun = one if number == 1 else (many or one + "s")
    return f"{in_words(number) if number else 'no'} {noun}"


def some_of(words: Sequence[str]) -> str:
    """Some of many words in a row: three, and how many more."""
    if not words:
        return "nothing"
    if len(words) > 3:
        return f"{', '.join(words[:3])} and {counted(len(words) - 3, 'other')}"
    *others, last = words
    return f"{', '.join(others)} and {last}" if others else last


def some_have(names: Sequence[str], one: str = "has", several: str = "have") -> str:
    """Names with the verb that goes with as many: Ana has, Ana and Bea have."""
    return f"{some_of(names)} {one if len(names) == 1 else several}"


def share_of(part: int, whole: int, noun: str) -> str:
    """A part of a whole: one of three topics, none of six topics."""
    return f"{in_words(part)} of {counted(whole, noun)}"
