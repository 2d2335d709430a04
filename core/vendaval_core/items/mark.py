"""What marking a part gives."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Literal

from vendaval_core.language import gettext

from .reading import plain_text


class Verdict(StrEnum):
    """What a response to a part is. NOTED: kept and not marked. INCOMPLETE: it can be read, and
    something is missing."""

    RIGHT = "right"
    PARTLY = "partly"
    WRONG = "wrong"
    UNREADABLE = "unreadable"
    INCOMPLETE = "incomplete"
    NOTED = "noted"


@dataclass(frozen=True, slots=True)
class Piece:
    """One pair, cell, gap or point: what was given beside what is right, in words."""

    label: str
    given: str
    right: str
    ok: bool


@dataclass(frozen=True, slots=True)
class PartMark:
    """Mark of one response to one part.

    canonical: the response as it was read, equal for equal answers. says: near-miss feedback, how
    it was read, or why it could not be. share: of the part's points, 0 to 1; of what is incomplete,
    what it earns if nothing is added. of: things scored.
    """

    verdict: Verdict
    canonical: str
    says: str | None = None
    share: Fraction = Fraction(0)
    of: int = 1


RIGHT = Fraction(1)


def unreadable(why: str) -> PartMark:
    """Return the mark of a response that could not be read. why: shown to the learner."""
    return PartMark(Verdict.UNREADABLE, "", why)


def incomplete(why: str, share: Fraction, canonical: str, of: int = 1) -> PartMark:
    """Return the mark of a response that lacks something. why: what, shown to the learner."""
    return PartMark(Verdict.INCOMPLETE, canonical, why, share, of)


def as_it_stands(mark: PartMark) -> PartMark:
    """Return the mark of an incomplete response to which nothing will be added."""
    if mark.verdict is not Verdict.INCOMPLETE:
        return mark
    return shared(mark.share, mark.canonical, None, mark.of)


@dataclass(frozen=True, slots=True)
class ReadBack:
    """How a response is read. says: as what, where that differs from what was typed; what is
    missing; or why it can't be read."""

    state: Literal["blank", "incomplete", "unreadable", "read"]
    says: str = ""


BLANK = ReadBack("blank")


def read_as(typed: str, words: str, *more: str) -> ReadBack:
    """Return how a text was read. words: what it was read as, said where it is not what was typed,
    nor one of `more`, which say the same."""
    if _closed_up(typed) in {_closed_up(same) for same in (words, *more)}:
        return ReadBack("read")
    return ReadBack("read", gettext("We read this as {words}.").format(words=words))


def _closed_up(text: str) -> str:
    return re.sub(r"\s", "", plain_text(text))


def shared(share: Fraction, canonical: str, says: str | None = None, of: int = 1) -> PartMark:
    """Return a mark for a share, 0 to 1: 1 is right, 0 is wrong, anything between is partly
    right."""
    verdict = Verdict.RIGHT if share == 1 else Verdict.PARTLY if share > 0 else Verdict.WRONG
    return PartMark(verdict, canonical, says, share, of)


def lines(response: str) -> list[str]:
    """Return the values of a response, which has one per line; blank ones are left out."""
    return [line.strip() for line in response.splitlines() if line.strip()]
