"""What may be told of a question now. Every page asks here: none tells more than another."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Disclosure:
    """parts: each part's right or wrong, and what is said of it. solution: right answers, worked
    solution and source."""

    parts: bool
    solution: bool


NOTHING = Disclosure(parts=False, solution=False)
AS_IT_GOES = Disclosure(parts=True, solution=False)
EVERYTHING = Disclosure(parts=True, solution=True)
