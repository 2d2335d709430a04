"""A result beside those of the group: only where enough took the test, and never with names.

Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

# With fewer a learner could tell whose result is whose (common practice, no published source).
ENOUGH = 10


@dataclass(frozen=True, slots=True)
class Comparison:
    """Per cent of everybody, the lowest first, rounded to whole ones; own: which of them is one's
    own, from 0. middle: the median."""

    per_cent: tuple[int, ...]
    own: int
    middle: int


def compared(own: Fraction, others: Sequence[Fraction]) -> Comparison | None:
    """Return one's own result beside those of everybody who took the test. Shares are 0 to 1. None
    if fewer than ten took it, so that nobody's result can be guessed."""
    everybody = sorted([*others, own])
    if len(everybody) < ENOUGH:
        return None
    half = len(everybody) // 2
    middle = everybody[half]
    if len(everybody) % 2 == 0:
        middle = (everybody[half - 1] + everybody[half]) / 2
    return Comparison(
        tuple(_whole(share) for share in everybody), everybody.index(own), _whole(middle)
    )


def _whole(share: Fraction) -> int:
    return int(100 * share + Fraction(1, 2)) if share >= 0 else -_whole(-share)
