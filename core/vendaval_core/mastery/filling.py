"""Filling a number of minutes with the steps of greatest gain per minute.

A gain is in targets expected to be met or kept, weighted by importance (`recommend.practice_value`,
per minute). What a recheck, a mended miss and a section read are worth is a judgement: a target
takes about 25 questions, so one of practice is worth 0.04; a miss mended two or three of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import groupby

RECHECK_GAIN = 0.25
MEND_GAIN = 0.10
READING_GAIN = 0.15
# A second piece of the same kind is worth a little less: variety keeps people going.
AGAIN = 0.75
# Fewer are over before the topic is warm, more let nothing else into twenty minutes.
BLOCK_QUESTIONS = 4
LEAST_LEFT = 1.0


class PieceKind(StrEnum):
    """What a piece of some minutes is, in the order in which they are done: what must not be
    helped by the others comes first."""

    RECHECK = "recheck"
    READ = "read"
    MEND = "mend"
    PRACTISE = "practise"


ORDER = tuple(PieceKind)


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of work. minutes, above 0; gain: see above; questions: 0 for reading. of: number of
    the miss, for a mend. section: key of the section, to read."""

    kind: PieceKind
    topic: str
    title: str
    why: str
    minutes: float
    gain: float
    questions: int = 0
    of: int | None = None
    section: str | None = None

    @property
    def per_minute(self) -> float:
        """Gain per minute."""
        return self.gain / self.minutes


def blocks(piece: Piece, most: int = 6) -> list[Piece]:
    """Return a topic's practice as blocks, at most `most`. Each further block gains three quarters
    of the one before."""
    return [replace(piece, gain=piece.gain * AGAIN**turn) for turn in range(most)]


def fill(minutes: float, offered: Sequence[Piece]) -> list[Piece]:
    """Return the pieces that fill some minutes, greatest gain per minute first, in the order to do
    them. Several blocks of one topic become one piece.

    What no longer fits is skipped for the next piece that does. The first piece may take half as
    long again as the minutes, so that five minutes are never empty.
    """
    left, taken = minutes, list[Piece]()
    for piece in sorted(offered, key=lambda one: -one.per_minute):
        fits = piece.minutes <= left or (not taken and piece.minutes <= 1.5 * minutes)
        if fits and piece.gain > 0:
            taken.append(piece)
            left -= piece.minutes
        if left < LEAST_LEFT:
            break
    taken.sort(key=lambda one: ORDER.index(one.kind))
    return _joined(taken)


def _joined(pieces: Sequence[Piece]) -> list[Piece]:
    practice = [piece for piece in pieces if piece.kind is PieceKind.PRACTISE]
    others = [piece for piece in pieces if piece.kind is not PieceKind.PRACTISE]
    order = list(dict.fromkeys(piece.topic for piece in practice))
    practice.sort(key=lambda one: order.index(one.topic))
    joined = []
    for _, several in groupby(practice, key=lambda one: one.topic):
        same = list(several)
        joined.append(
            replace(
                same[0],
                minutes=sum(one.minutes for one in same),
                gain=sum(one.gain for one in same),
                questions=sum(one.questions for one in same),
            )
        )
    return others + joined
