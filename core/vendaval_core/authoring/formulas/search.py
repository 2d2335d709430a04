"""The search for a formula, from marked numbers and words and the answers to some examples."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.packs.constants import CONSTANTS

from .asking import Verdict, judged
from .fits import Answers, fits
from .space import build

MOST_MARKS = 6
MOST_COST = 14
BUILDING = 0.45


@dataclass(frozen=True, slots=True)
class Asked:
    """marks: what each marked number or word reads in every version, those of the examples first;
    a word that has two forms stands as 1 and -1. answers: to the examples, as they were typed.
    digits: decimals of answers. turn: see `Answers`. constants: that may stand in a formula."""

    marks: Mapping[str, Sequence[float]]
    answers: Sequence[float]
    digits: int
    turn: int = 0
    constants: Sequence[float] = CONSTANTS


def search(asked: Asked, now: Callable[[], float], seconds: float = 4.0) -> Verdict:
    """Return the formula, or what to ask next; neither when nothing explains the examples. now: a
    clock in seconds, by which the search ends."""
    began = now()
    known = len(asked.answers)
    marks = {name: values for name, values in asked.marks.items() if np.ptp(values) > 0}
    columns = len(next(iter(asked.marks.values())))
    within = 0.5 * 10.0**-asked.digits + 1e-9
    given = np.asarray(asked.answers, float)
    answers = Answers(given - within, given + within, asked.turn)
    space = build(marks, asked.constants, MOST_COST, lambda: now() > began + seconds * BUILDING)
    whole = asked.digits == 0
    found = fits(space, answers, whole, len(marks), lambda: now() > began + seconds)
    return judged(found, known, within, asked.turn, range(known, columns))
