"""Reading what a learner typed. A text that cannot be read is a result, not an error."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass

LONGEST = 200
_NUMBER = re.compile(r"[+\-]?(?:\d{1,12}(?:[.,]\d{0,12})?|[.,]\d{1,12})")
_TIME = re.compile(r"(\d{1,2})\s*[:.h]\s*(\d{2})|(\d{2})(\d{2})")
_UNIT_NAMES = {
    "m": {"m", "metre", "metres", "meter", "meters"},
    "M": {"m", "nm", "nmi", "mile", "miles", "nauticalmile", "nauticalmiles", "seamiles"},
    "kn": {"kn", "kt", "kts", "knot", "knots"},
    "°": {"°", "deg", "degree", "degrees", "º"},
    "min": {"min", "mins", "minute", "minutes", "′", "'"},
    "h": {"h", "hr", "hrs", "hour", "hours"},
}


@dataclass(frozen=True, slots=True)
class Unreadable:
    """Why a text could not be read, said to the learner."""

    why: str


def _plain(text: str) -> str:
    swaps = {"\u2212": "-", "\u2013": "-", "\u2014": "-", "\u00a0": " ", "\u202f": " "}
    for old, new in swaps.items():
        text = text.replace(old, new)
    return text.strip()


def read_number(text: str, unit: str) -> float | Unreadable:
    """Number in a text, with a decimal point or comma and, if wished, the unit after it."""
    if len(text) > LONGEST:
        return Unreadable("That is too long for a number.")
    plain = _plain(text)
    if not plain:
        return Unreadable("Nothing is typed yet.")
    match = _NUMBER.match(plain)
    if match is None:
        return Unreadable(f"“{plain}” does not begin with a number.")
    rest = plain[match.end() :].strip()
    if rest[:1].isdigit() or rest[:1] in {".", ","}:
        return Unreadable(f"“{plain}” is not one number. Write it without thousands separators.")
    if rest and re.sub(r"[\s.]", "", rest.lower()) not in _UNIT_NAMES.get(unit, {unit.lower()}):
        wanted = f"in {unit}" if unit else "without a unit"
        return Unreadable(f"“{rest}” is not understood here. The answer is wanted {wanted}.")
    return float(match.group().replace(",", "."))


def read_time(text: str) -> int | Unreadable:
    """Time of day in minutes after midnight, from 09:10, 9.10, 9h10 or 0910."""
    plain = _plain(text)[:LONGEST].lower()
    if not plain:
        return Unreadable("Nothing is typed yet.")
    match = _TIME.fullmatch(plain)
    if match is None:
        return Unreadable(f"“{plain}” is not a time. Write it as 09:10.")
    hour, minute = (int(group) for group in match.groups() if group is not None)
    if hour > 23 or minute > 59:
        return Unreadable(f"“{plain}” is not a time of day. Hours go to 23 and minutes to 59.")
    return hour * 60 + minute


def read_text(text: str) -> str | Unreadable:
    """A short text folded for comparison: case, accents, articles and spacing do not count."""
    if len(text) > LONGEST:
        return Unreadable(f"That is too long. At most {LONGEST} characters.")
    decomposed = unicodedata.normalize("NFKD", text.casefold())
    letters = "".join(c for c in decomposed if not unicodedata.combining(c))
    words = re.sub(r"[^\w]+", " ", letters).split()
    words = words[1:] if len(words) > 1 and words[0] in {"a", "an", "the"} else words
    return " ".join(words) if words else Unreadable("Nothing is typed yet.")
