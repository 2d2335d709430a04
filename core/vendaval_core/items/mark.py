"""What marking a part gives."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction


class Verdict(StrEnum):
    """What a response to a part is. NOTED: kept and not marked."""

    RIGHT = "right"
    PARTLY = "partly"
    WRONG = "wrong"
    UNREADABLE = "unreadable"
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
    it was read, or why it could not be. share: of the part's points, 0 to 1. of: things scored.
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


def shared(share: Fraction, canonical: str, says: str | None = None, of: int = 1) -> PartMark:
    """Return a mark for a share, 0 to 1: 1 is right, 0 is wrong, anything between is partly
    right."""
    verdict = Verdict.RIGHT if share == 1 else Verdict.PARTLY if share > 0 else Verdict.WRONG
    return PartMark(verdict, canonical, says, share, of)


def lines(response: str) -> list[str]:
    """Return the values of a response, which has one per line; blank ones are left out."""
    return [line.strip() for line in response.splitlines() if line.strip()]
