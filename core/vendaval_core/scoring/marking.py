"""Response and key to mark, per kind of part."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..items.versions import ChoiceKey, NumberKey, PartKey, TextKey, TimeKey
from .reading import Unreadable, read_number, read_text, read_time


class Verdict(StrEnum):
    """What a response to a part is."""

    RIGHT = "right"
    WRONG = "wrong"
    UNREADABLE = "unreadable"


@dataclass(frozen=True, slots=True)
class PartMark:
    """Mark of one response to one part.

    canonical: the response as it was read, equal for equal answers. says: near-miss feedback,
    or why it could not be read.
    """

    verdict: Verdict
    canonical: str
    says: str | None = None


def _numeric(
    value: float, canonical: str, key: NumberKey | TimeKey, distance: float, miss_reach: float
) -> PartMark:
    if distance <= key.tolerance + 1e-9:
        return PartMark(Verdict.RIGHT, canonical)
    for miss in key.near_misses:
        if isinstance(miss.value, float) and abs(value - miss.value) <= miss_reach + 1e-9:
            return PartMark(Verdict.WRONG, canonical, miss.says)
    return PartMark(Verdict.WRONG, canonical)


def mark_part(key: PartKey, response: str) -> PartMark:
    """Mark a response: a choice's id, or the text typed. Never raises for what a learner sends."""
    match key:
        case ChoiceKey():
            chosen = next((choice for choice in key.choices if choice.id == response), None)
            if chosen is None:
                return PartMark(Verdict.UNREADABLE, "", "Choose one of the answers.")
            verdict = Verdict.RIGHT if chosen.right else Verdict.WRONG
            return PartMark(verdict, chosen.id, None if chosen.right else chosen.says)
        case NumberKey():
            number = read_number(response, key.unit)
            if isinstance(number, Unreadable):
                return PartMark(Verdict.UNREADABLE, "", number.why)
            return _numeric(number, repr(number), key, abs(number - key.answer), key.tolerance)
        case TimeKey():
            time = read_time(response)
            if isinstance(time, Unreadable):
                return PartMark(Verdict.UNREADABLE, "", time.why)
            apart = abs(time - key.answer)
            return _numeric(time, str(time), key, min(apart, 1440 - apart), key.tolerance)
        case TextKey():
            folded = read_text(response)
            if isinstance(folded, Unreadable):
                return PartMark(Verdict.UNREADABLE, "", folded.why)
            if folded in {read_text(text) for text in key.accepted}:
                return PartMark(Verdict.RIGHT, folded)
            said = (m.says for m in key.near_misses if read_text(str(m.value)) == folded)
            return PartMark(Verdict.WRONG, folded, next(said, None))
