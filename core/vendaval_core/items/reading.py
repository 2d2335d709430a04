"""Reading what a learner typed. A text that cannot be read is a result, not an error."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

LONGEST = 200


@dataclass(frozen=True, slots=True)
class Unreadable:
    """Why a text could not be read, said to the learner."""

    why: str


_MINUSES, _SPACES = "\u2212\u2010\u2011\u2013\u2014", "\u00a0\u2009\u202f"
_SWAPS = str.maketrans(_MINUSES + _SPACES, "-" * len(_MINUSES) + " " * len(_SPACES))


def plain_text(text: str) -> str:
    """Return a text with one kind of minus and of space, and none around it."""
    return text.translate(_SWAPS).strip()


def folded(text: str, *, case: bool = False, accents: bool = False) -> str:
    """Return a text for comparison: capitals, accents, articles and spacing don't count unless
    asked."""
    plain = text if case else text.casefold()
    if not accents:
        decomposed = unicodedata.normalize("NFKD", plain)
        plain = "".join(c for c in decomposed if not unicodedata.combining(c))
    else:
        plain = unicodedata.normalize("NFC", plain)
    words = re.sub(r"[^\w]+", " ", plain).split()
    words = words[1:] if len(words) > 1 and words[0].lower() in {"a", "an", "the"} else words
    return " ".join(words)


def read_text(text: str, *, case: bool = False, accents: bool = False) -> str | Unreadable:
    """Read a short text, folded for comparison."""
    if len(text) > LONGEST:
        return Unreadable(
            gettext("That is too long. Use at most {longest} characters.").format(longest=LONGEST)
        )
    return folded(text, case=case, accents=accents) or Unreadable(
        gettext("You haven’t typed anything yet.")
    )


def is_slip(typed: str, word: str, others: Sequence[str]) -> bool:
    """Return whether a text is a word with a slip of the finger. Both folded.

    Two neighbours swapped from four letters on, one letter from five, two from nine (a judgement:
    in a short word another letter makes another word). Never when it is as near to one of
    `others`, the other answers of the question.
    """
    allowed = 0 if len(word) < 5 else 1 if len(word) < 9 else 2
    swapped = len(word) >= 4 and sorted(typed) == sorted(word)
    away = slips_between(typed, word, 2)
    if away > max(allowed, 1 if swapped else 0):
        return False
    return all(slips_between(typed, other, 2) > away for other in others)


def slips_between(one: str, other: str, most: int) -> int:
    """Return how many letters to insert, remove, change or swap with a neighbour to get from one
    text to the other (Damerau 1964); `most` + 1 if more than `most`."""
    if abs(len(one) - len(other)) > most:
        return most + 1
    before: list[int] = []
    last = list(range(len(other) + 1))
    for i, a in enumerate(one, start=1):
        row = [i]
        for j, b in enumerate(other, start=1):
            found = min(last[j] + 1, row[j - 1] + 1, last[j - 1] + (a != b))
            if i > 1 and j > 1 and a == other[j - 2] and one[i - 2] == b:
                found = min(found, before[j - 2] + 1)
            row.append(found)
        before, last = last, row
    return min(last[-1], most + 1)
