"""The search tried on families whose formula is known: an author answers what is asked back, from
the family's own versions."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from vendaval_core.items.model import Family

from .marks import Marked, marked
from .search import Asked, search
from .space import Array, apart

Outcome = Literal["right", "wrong", "none"]


@dataclass(frozen=True, slots=True)
class Tried:
    """How a family went. examples: that were given. slowest: search in seconds."""

    key: str
    outcome: Outcome
    examples: int
    slowest: float
    found: str
    truth: str


def try_family(family: Family, now: Callable[[], float], seconds: float = 4.0) -> Tried | None:
    """Have a family's formula found from its versions, two at first; None for one that is left
    out."""
    marks = marked(family)
    if marks is None:
        return None
    used, slowest = [0, 1], 0.0
    while True:
        order = used + [place for place in range(len(marks.answers)) if place not in used]
        began = now()
        verdict = search(_asked(marks, order, len(used)), now, seconds)
        slowest = max(slowest, now() - began)
        if verdict.ask is None:
            break
        used.append(order[verdict.ask])
    taken = verdict.taken
    if taken is None:
        return Tried(family.key, "none", len(used), slowest, "", marks.truth)
    outcome: Outcome = "right" if _same(taken.values, marks, order) else "wrong"
    return Tried(family.key, outcome, len(used), slowest, taken.text, marks.truth)


def _asked(marks: Marked, order: list[int], known: int) -> Asked:
    return Asked(
        {name: [values[place] for place in order] for name, values in marks.marks.items()},
        [marks.answers[place] for place in order[:known]],
        marks.digits,
        marks.turn,
        marks.constants,
    )


def _same(found: Array, marks: Marked, order: list[int]) -> bool:
    right = np.array([marks.answers[place] for place in order])
    return bool((apart(found, right, marks.turn) <= 0.5 * 10.0**-marks.digits + 1e-6).all())
