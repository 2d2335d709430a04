"""What an author marks of a question, read off a family: its numbers and words as they are shown,
with the answers to its versions. So the search can be tried on families whose formula is known."""

from __future__ import annotations

import re
from dataclasses import dataclass

from vendaval_core.authoring.expressions import expanded
from vendaval_core.errors import CoreError
from vendaval_core.items.expressions import evaluate
from vendaval_core.items.kinds.number import NumberPart
from vendaval_core.items.kinds.time_of_day import TimePart
from vendaval_core.items.model import DerivedVariable, Family
from vendaval_core.items.template import SLOT, shown
from vendaval_core.items.versions import draw_variables
from vendaval_core.packs.constants import CONSTANTS
from vendaval_core.words import NUMBERS

NUMBER = re.compile(r"(?<![\w.])\d+(?:\.\d+)?(?!\w)")
CLOCK = re.compile(r"(\d{1,2}):(\d{2})")
_DURATION = re.compile(r"(?:(\d+) h)? ?(?:(\d+) min)?")
_PLAIN = re.compile(r"-?\d+(?:\.\d+)?")
_TOWARDS = re.compile(r"(\d+(?:\.\d+)?)°? ?([NESW])")
DAY, CIRCLE = 1440, 360


@dataclass(frozen=True, slots=True)
class Marked:
    """A question as the search is told of it. marks: by the expression they show. truth: the
    formula as its author wrote it, for whoever compares."""

    marks: dict[str, list[float]]
    answers: list[float]
    digits: int
    turn: int
    constants: tuple[float, ...]
    truth: str


def read_mark(text: str) -> float | None:
    """A number as it stands in a question: plain, a time of day or a duration in minutes, an angle
    east or west, or in letters; None for a word."""
    plain = text.replace("\u2212", "-").replace("\u00a0", " ").strip()
    if found := CLOCK.fullmatch(plain):
        return int(found[1]) * 60.0 + int(found[2])
    if _PLAIN.fullmatch(plain.removesuffix("°")):
        return float(plain.removesuffix("°"))
    if found := _TOWARDS.fullmatch(plain):
        return float(found[1]) * (-1 if found[2] in "WS" else 1)
    if (found := _DURATION.fullmatch(plain)) and (found[1] or found[2]):
        return 60.0 * int(found[1] or 0) + int(found[2] or 0)
    first = plain.lower().partition(" ")[0]
    if first in NUMBERS:
        return float(NUMBERS.index(first))
    return float(first) if _PLAIN.fullmatch(first) else None


def marked(family: Family) -> Marked | None:
    """What its author would mark, None for a family that is not a single number whose formula
    needs only what its prompt shows."""
    if len(family.parts) != 1 or not isinstance(family.parts[0], NumberPart | TimePart):
        return None
    part = family.parts[0]
    expressions = list(dict.fromkeys(SLOT.findall(family.prompt)))
    rows, answers = [], []
    for seed in range(1, family.versions + 1):
        try:
            values = draw_variables(family, seed)
            rows.append([shown(evaluate(one, values)) for one in expressions])
            answers.append(float(evaluate(str(part.answer), values)))
        except CoreError:
            return None
    digits = part.digits if isinstance(part, NumberPart) else 0
    turn = DAY if isinstance(part, TimePart) else CIRCLE if _is_direction(part) else 0
    truth = expanded(family, str(part.answer))
    numbers = {float(one) for one in NUMBER.findall(SLOT.sub(" ", family.prompt))}
    constants = tuple(sorted({*CONSTANTS, *numbers}))
    if not rows or _needs_more(family, truth, constants):
        return None
    read = {one: _numbers([row[column] for row in rows]) for column, one in enumerate(expressions)}
    marks = _different({k: found for k, found in read.items() if found and len(set(found)) > 1})
    if not marks:
        return None
    return Marked(marks, [round(one, digits) for one in answers], digits, turn, constants, truth)


def _is_direction(part: NumberPart | TimePart) -> bool:
    return isinstance(part, NumberPart) and part.unit == "°" and "%" in str(part.answer)


def _numbers(texts: list[str]) -> list[float] | None:
    """A marked place in all versions; a word with two forms is 1 and -1."""
    read = [read_mark(one) for one in texts]
    if all(one is not None for one in read):
        return [one for one in read if one is not None]
    forms = list(dict.fromkeys(texts))
    return [1.0 if one == forms[0] else -1.0 for one in texts] if len(forms) == 2 else None


def _different(marks: dict[str, list[float]]) -> dict[str, list[float]]:
    """Marks that show the same number as another one are not marked again."""
    found: dict[str, list[float]] = {}
    for name, values in marks.items():
        if values not in found.values():
            found[name] = values
    return found


def _needs_more(family: Family, truth: str, constants: tuple[float, ...]) -> bool:
    """Whether a formula has constants or tables of its own: a table also where what the question
    shows was looked up in one, and what is asked for is the way back."""
    derived = [v.expression for v in family.variables if isinstance(v, DerivedVariable)]
    if "choose" in f"{truth} {derived}" or len(re.findall(r"\bif\b", truth)) > 1:
        return True
    used = {float(one) for one in NUMBER.findall(truth)}
    return bool(used - {*constants, 0.0})
