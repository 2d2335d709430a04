"""What may be told of a question now. Every page asks here: none tells more than another."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Disclosure:
    """outcome: right or wrong. parts: what is said of each part. answers: the right ones of parts
    that are closed. solution: worked solution and source."""

    outcome: bool
    parts: bool
    answers: bool
    solution: bool


SILENT = Disclosure(outcome=False, parts=False, answers=False, solution=False)
OUTCOME = Disclosure(outcome=True, parts=False, answers=False, solution=False)
AS_IT_GOES = Disclosure(outcome=True, parts=True, answers=True, solution=False)
EVERYTHING = Disclosure(outcome=True, parts=True, answers=True, solution=True)
