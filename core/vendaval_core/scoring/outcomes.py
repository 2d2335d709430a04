"""From a version's parts to the response curve of its family, as judged by its author."""

from __future__ import annotations

from ..items.kinds.protocol import Key
from ..items.versions import Version
from ..measure.response import ResponseCurve, judged_curve


def guess_chance(key: Key) -> float:
    """Chance from 0 to 1 of a lucky wholly right answer; 0 for a part that gives part credit, of
    which some is right by luck too often for one chance to say."""
    return key.guess_chance if key.units == 1 else 0.0


def family_curve(version: Version, difficulty: int) -> ResponseCurve:
    """Curve judged for a family, from one of its versions (all have the same parts)."""
    marked = [key for key in version.parts if key.units]
    guess = guess_chance(marked[0]) if len(marked) == 1 else 0.0
    return judged_curve(difficulty, max(1, version.units), guess)
