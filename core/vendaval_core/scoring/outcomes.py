"""From a version's parts to the response curve of its family, as judged by its author."""

from __future__ import annotations

from math import comb, factorial

from ..items.keys import ChoiceKey, OrderKey, PartKey, SlotsKey, units_of
from ..items.versions import Version
from ..measure.response import ResponseCurve, judged_curve


def guess_chance(key: PartKey) -> float:
    """Chance of a lucky wholly right answer to a part.

    One of n choices 1/n, exactly m of n 1/C(n, m), any number 2^-n, a whole order or matching
    1/n!, one drop-down 1/n; 0 for what is typed, placed, or gives part credit.
    """
    if units_of(key) != 1:
        return 0.0
    match key:
        case ChoiceKey(choices=choices, choose=None):
            return 0.5 ** len(choices)
        case ChoiceKey(choices=choices, choose=int() as count):
            return 1 / comb(len(choices), count)
        case OrderKey(items=items):
            return 1 / factorial(len(items))
        case SlotsKey(kind="inline_choice", slots=(slot,)):
            return 1 / len(slot.offers)
        case SlotsKey(slots=slots) if not key.reuse:
            return 1 / factorial(len(slots))
        case _:
            return 0.0


def family_curve(version: Version, difficulty: int) -> ResponseCurve:
    """Curve judged for a family, from one of its versions (all have the same parts)."""
    marked = [key for key in version.parts if units_of(key)]
    guess = guess_chance(marked[0]) if len(marked) == 1 else 0.0
    return judged_curve(difficulty, max(1, version.units), guess)
