"""Reading a number as people type it: grouped, as a fraction, in words, beside a noun or a unit."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

from .letters import Letter, read_letter
from .reading import LONGEST, Unreadable, plain_text
from .units import converted, unit_named

# What groups digits by threes: spaces and apostrophes, never a point or a comma alone.
_GROUPED = re.compile(r"[+\-]?\d{1,3}(?:[ '’]\d{3})+(?!\d)(?:[.,]\d{1,12})?")
_COMMAS = re.compile(r"[+\-]?[1-9]\d{0,2}(?:,\d{3})+(?!\d)(?:\.\d{1,12})?")
_POINTS = re.compile(r"[+\-]?[1-9]\d{0,2}(?:(?:\.\d{3}){2,}(?!\d)|(?:\.\d{3})+,\d{1,12})")
_NUMBER = re.compile(r"[+\-]?(?:\d{1,12}(?:[.,]\d{0,12})?|[.,]\d{1,12})")
_FRACTION = re.compile(r"([+\-]?)(?:(\d{1,6})\s+)?(\d{1,6})\s*/\s*(\d{1,6})")
_ANGLE = re.compile(
    r"([+\-]?)(\d{1,3})\s*(?:°|º|deg(?:rees)?|\s)\s*(\d{1,2}(?:[.,]\d{1,6})?)\s*(?:['′]|min(?:utes)?)?"
)
_HOURS = re.compile(
    r"(\d{1,3})\s*(?::\s*([0-5]\d)|(?:h|hrs?|hours?)\s*(?:(?:and\s*)?([0-5]?\d)\s*(?:m|mins?|minutes?)?)?)\.?",
    re.IGNORECASE,
)
_VULGAR = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5",
    "⅘": "4/5", "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8",
}  # fmt: skip
NUMBERS_IN_WORDS = (
    "zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten",
    "eleven", "twelve",
)  # fmt: skip


# Of a number that was not typed with decimals: enough for any answer.
ANY_DECIMALS = 9


@dataclass(frozen=True, slots=True)
class ReadNumber:
    """A number in the wanted unit. decimals: how many were typed. unit: the one typed, "" for none.
    said: how it was read, when it came in another unit. letter: typed beside it and contradicting
    the question's."""

    value: float
    decimals: int
    unit: str = ""
    said: str | None = None
    letter: str = ""


def read_number(
    text: str,
    unit: str,
    *,
    angle: bool = False,
    units: Sequence[str] = (),
    words: Sequence[str] = (),
    grouped: bool = True,
    letter: Letter = "",
) -> ReadNumber | Unreadable:
    """Read a number with a decimal point or comma, a fraction or a mixed number, and optionally its
    unit.

    units: others that are accepted and converted. Any other unit is refused, because converting may
    be the question. words: nouns that may stand beside the number. grouped: whether 1,111 can be
    1111; otherwise it is asked about, and it is never 1.111. letter: that belongs to the answer (T,
    M or C; E or W; N or S), "" for none. angle: degrees and minutes, as 38 37.5.
    """
    if len(text) > LONGEST:
        return Unreadable(gettext("That is too long to be a number."))
    plain = _as_typed(plain_text(text))
    if not plain:
        return Unreadable(gettext("You haven’t typed anything yet."))
    found = read_letter(plain, letter, asked=unit == "°" or angle)
    if isinstance(found, Unreadable):
        return found
    plain, other = found
    read = _angle(plain) if angle else _number(plain, unit, units, words, grouped=grouped)
    if isinstance(read, Unreadable):
        return read
    if letter in {"E", "W", "N", "S"} and read.value < 0:
        return Unreadable(gettext("Write the number without a minus, and the letter after it."))
    return ReadNumber(read.value, read.decimals, read.unit, read.said, other)


def _as_typed(plain: str) -> str:
    """The text without signs that say nothing: = and ≈ before it, × beside it, a full stop."""
    plain = re.sub(r"^[=≈~≃]\s*", "", plain)
    plain = re.sub(r"^[×✕]\s*(?=[\d.,½⅓⅔¼¾⅛])|(?<=\d)\s*[×✕]$", "", plain)
    plain = re.sub(r"(?<=[\w°′'½¼¾)])\.$", "", plain)
    return re.sub(f"[{''.join(_VULGAR)}]", lambda sign: f" {_VULGAR[sign[0]]}", plain).strip()


def _angle(plain: str) -> ReadNumber | Unreadable:
    degrees = _ANGLE.fullmatch(plain)
    if degrees is None:
        return Unreadable(gettext("Write whole degrees and then minutes, such as 38° 37.5′."))
    sign, whole, typed = degrees.groups()
    minutes = float(typed.replace(",", "."))
    if minutes >= 60:
        return Unreadable(gettext("Minutes go up to 59.9. Sixty minutes make one degree."))
    value = int(whole) + minutes / 60
    return ReadNumber(-value if sign == "-" else value, ANY_DECIMALS)


def _number(
    plain: str, unit: str, units: Sequence[str], words: Sequence[str], *, grouped: bool
) -> ReadNumber | Unreadable:
    hours = _hours(plain, unit) if {"h", "min"} <= {unit, *units} else None
    if hours is not None:
        return hours
    read = _leading(_without_words(plain, words), grouped=grouped)
    if isinstance(read, Unreadable):
        return read
    value, decimals, rest = read
    if rest[:1].isdigit() or rest[:1] in {".", ","}:
        return Unreadable(
            gettext("“{plain}” isn’t one number. Write only the answer.").format(plain=plain[:40])
        )
    return _in_unit(value, decimals, rest, unit, units)


def _in_unit(
    value: float, decimals: int, rest: str, unit: str, units: Sequence[str]
) -> ReadNumber | Unreadable:
    """A number with what was typed after it."""
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
    return ReadNumber(found, ANY_DECIMALS, typed_unit, said)


def _hours(plain: str, unit: str) -> ReadNumber | None:
    """1 h 30 min, 1:30 or 1 h, where hours and minutes are both taken."""
    match = _HOURS.fullmatch(plain)
    if match is None:
        return None
    hours, after_colon, minutes = match.groups()
    found = 60 * int(hours) + int(after_colon or minutes or 0)
    value = found if unit == "min" else found / 60
    said = gettext("We read this as {value:.4g} {unit}.").format(value=value, unit=unit)
    return ReadNumber(value, ANY_DECIMALS, unit, said)


def _leading(plain: str, *, grouped: bool) -> tuple[float, int, str] | Unreadable:
    """Value, decimals typed, and what is left after it."""
    fraction = _FRACTION.match(plain)
    if fraction is not None:
        sign, whole, top, bottom = fraction.groups()
        if int(bottom) == 0:
            return Unreadable(gettext("The bottom of a fraction can’t be 0."))
        value = int(whole or 0) + int(top) / int(bottom)
        rest = plain[fraction.end() :].strip()
        return (-value if sign == "-" else value), ANY_DECIMALS, rest
    word = re.match(r"[a-z]+\b", plain, re.IGNORECASE)
    if word is not None and word.group().lower() in NUMBERS_IN_WORDS:
        value = float(NUMBERS_IN_WORDS.index(word.group().lower()))
        return value, 0, plain[word.end() :].strip()
    match, digits = _digits(plain)
    if match is None:
        return Unreadable(
            gettext(
                "“{plain}” doesn’t start with a number. Write only the number, such as 2."
            ).format(plain=plain[:40])
        )
    if _is_ambiguous(match.group()) and not grouped:
        return Unreadable(
            gettext("“{plain}” could be two numbers. Write {one} or {other}.").format(
                plain=match.group(),
                one=match.group().replace(",", ""),
                other=match.group().replace(",", "."),
            )
        )
    return float(digits), len(digits.partition(".")[2]), plain[match.end() :].strip()


def _digits(plain: str) -> tuple[re.Match[str] | None, str]:
    """The number that a text starts with, and the same with a decimal point and no separators."""
    for pattern, separators in ((_GROUPED, " '’"), (_COMMAS, ","), (_POINTS, ".")):
        match = pattern.match(plain)
        if match is not None:
            digits = match.group()
            for separator in separators:
                digits = digits.replace(separator, "")
            return match, digits.replace(",", ".")
    match = _NUMBER.match(plain)
    return match, match.group().replace(",", ".") if match is not None else ""


def _is_ambiguous(typed: str) -> bool:
    """Whether one comma may group digits by threes or be the decimal one."""
    return re.fullmatch(r"[+\-]?[1-9]\d{0,2},\d{3}", typed) is not None


def _without_words(plain: str, words: Sequence[str]) -> str:
    """The text without the nouns that may stand beside a number: channel 16, ch-16, 27 litres."""
    if not words:
        return plain
    nouns = "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))
    return re.sub(
        rf"^(?:{nouns})(?:e?s)?(?![^\W\d])\.?(?:-(?=\d)|\s*)|\s*(?<![^\W\d])(?:{nouns})(?:e?s)?\.?$",
        "",
        plain,
        flags=re.IGNORECASE,
    )
