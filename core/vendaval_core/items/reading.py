"""Reading what a learner typed. A text that cannot be read is a result, not an error."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

from .units import converted, unit_named

LONGEST = 200
_NUMBER = re.compile(r"[+\-]?(?:\d{1,12}(?:[.,]\d{0,12})?|[.,]\d{1,12})")
_FRACTION = re.compile(r"([+\-]?)(?:(\d{1,6})\s+)?(\d{1,6})\s*/\s*(\d{1,6})")
_ANGLE = re.compile(
    r"([+\-]?)(\d{1,3})\s*(?:°|º|deg(?:rees)?|\s)\s*(\d{1,2}(?:[.,]\d{1,6})?)\s*(?:['′]|min(?:utes)?)?"
)
_TIME = re.compile(r"(\d{1,2})\s*[:.h]\s*(\d{2})|(\d{2})(\d{2})")


@dataclass(frozen=True, slots=True)
class Unreadable:
    """Why a text could not be read, said to the learner."""

    why: str


@dataclass(frozen=True, slots=True)
class ReadNumber:
    """A number in the wanted unit. decimals: how many were typed. said: how it was read, when it
    came in another unit. unit: the one typed, "" for none."""

    value: float
    decimals: int
    unit: str = ""
    said: str | None = None


def _plain(text: str) -> str:
    swaps = {"\u2212": "-", "\u2013": "-", "\u2014": "-", "\u00a0": " ", "\u202f": " "}
    for old, new in swaps.items():
        text = text.replace(old, new)
    return text.strip()


def _as_number(plain: str) -> tuple[float, int, str] | Unreadable:
    """Value, decimals typed, and what is left after it."""
    fraction = _FRACTION.match(plain)
    if fraction is not None:
        sign, whole, top, bottom = fraction.groups()
        if int(bottom) == 0:
            return Unreadable(gettext("The bottom of a fraction can’t be 0."))
        value = int(whole or 0) + int(top) / int(bottom)
        return (-value if sign == "-" else value), 9, plain[fraction.end() :].strip()
    match = _NUMBER.match(plain)
    if match is None:
        return Unreadable(
            gettext(
                "“{plain}” doesn’t start with a number. Write only the number, such as 2."
            ).format(plain=plain[:40])
        )
    digits = match.group().replace(",", ".")
    decimals = len(digits.partition(".")[2])
    return float(digits), decimals, plain[match.end() :].strip()


def read_number(
    text: str,
    unit: str,
    *,
    angle: bool = False,
    units: Sequence[str] = (),
    words: Sequence[str] = (),
) -> ReadNumber | Unreadable:
    """Read a number with a decimal point or comma, a fraction or a mixed number, and optionally its
    unit.

    units: others that are accepted and converted. Any other unit is refused, because converting may
    be the question. words: that may follow the number. angle: degrees and minutes, as 38 37.5.
    """
    if len(text) > LONGEST:
        return Unreadable(gettext("That is too long to be a number."))
    plain = _plain(text)
    if not plain:
        return Unreadable(gettext("You haven’t typed anything yet."))
    if angle:
        degrees = _ANGLE.fullmatch(plain)
        if degrees is not None:
            sign, whole, typed = degrees.groups()
            minutes = float(typed.replace(",", "."))
            if minutes >= 60:
                return Unreadable(gettext("Minutes go up to 59.9. Sixty minutes make one degree."))
            value = int(whole) + minutes / 60
            return ReadNumber(-value if sign == "-" else value, 9)
        return Unreadable(gettext("Write whole degrees and then minutes, such as 38° 37.5′."))
    read = _as_number(_without_words(plain, words))
    if isinstance(read, Unreadable):
        return read
    value, decimals, rest = read
    if rest[:1].isdigit() or rest[:1] in {".", ","}:
        return Unreadable(
            gettext("“{plain}” isn’t one number. Write it without spaces or commas.").format(
                plain=plain[:40]
            )
        )
    if not rest:
        return ReadNumber(value, decimals)
    typed_unit = unit_named(rest, unit)
    if typed_unit not in {unit, *units}:
        if unit:
            wanted = gettext("Write the answer in {unit}, not “{rest}”.")
        else:
            wanted = gettext("Write only the number, without “{rest}”.")
        return Unreadable(wanted.format(unit=unit, rest=rest[:40]))
    if typed_unit == unit:
        return ReadNumber(value, decimals, typed_unit)
    found = converted(value, typed_unit, unit)
    assert found is not None
    said = gettext("We read this as {found:.4g} {unit}.").format(found=found, unit=unit)
    return ReadNumber(found, 9, typed_unit, said)


def _without_words(plain: str, words: Sequence[str]) -> str:
    """The text without the words that may stand beside a number: channel 16, 27 litres."""
    if not words:
        return plain
    said = "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))
    return re.sub(
        rf"^(?:{said})\b\.?\s*|\s*(?<![^\W\d])(?:{said})\.?$", "", plain, flags=re.IGNORECASE
    )


def read_time(text: str) -> int | Unreadable:
    """Read a time of day from 09:10, 9.10, 9h10 or 0910, as minutes after midnight."""
    plain = _plain(text)[:LONGEST].lower()
    if not plain:
        return Unreadable(gettext("You haven’t typed anything yet."))
    match = _TIME.fullmatch(plain)
    if match is None:
        return Unreadable(
            gettext("“{plain}” isn’t a time. Write it like this: 09:10.").format(plain=plain[:40])
        )
    hour, minute = (int(group) for group in match.groups() if group is not None)
    if hour > 23 or minute > 59:
        return Unreadable(
            gettext("“{plain}” isn’t a time of day. Hours go up to 23, minutes up to 59.").format(
                plain=plain
            )
        )
    return hour * 60 + minute


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
