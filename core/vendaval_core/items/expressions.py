"""Expressions of families: arithmetic and formatting on a version's variables, nothing else.

Evaluation is `simpleeval`'s, which walks the syntax tree of a small part of Python and has
limits on powers and string lengths. The names and functions below are all there is.
"""

from __future__ import annotations

import ast
import math
import threading
from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

from simpleeval import InvalidExpression, SimpleEval  # type: ignore[import-untyped]

from vendaval_core.language import gettext

from ..errors import ExpressionError

Value = int | float | str | bool
MOST_DIGITS = 12


def round_half_up(x: float, digits: int = 0) -> float:
    """Round as taught at school: halves away from zero, after removing binary noise."""
    if not abs(digits) <= MOST_DIGITS:
        raise ValueError(
            gettext("round numbers to at most {most_digits} digits").format(most_digits=MOST_DIGITS)
        )
    scaled = round(abs(x) * 10**digits, 9)
    result = math.floor(scaled + 0.5) / 10**digits
    return math.copysign(result, x) if result else 0.0


def fixed(x: float, digits: int = 1) -> str:
    """Return a number with a fixed count of decimals and a true minus sign: -1.25 gives −1.3."""
    return f"{round_half_up(x, digits):.{digits}f}".replace("-", "\u2212")


def clock(minutes: float) -> str:
    """Return the time of day for minutes after midnight, also past the next midnight: 550 gives
    09:10."""
    whole = int(round_half_up(minutes)) % (24 * 60)
    return f"{whole // 60:02d}:{whole % 60:02d}"


def duration(minutes: float) -> str:
    """Return minutes as a length of time: 75 gives 1 h 15 min."""
    hours, rest = divmod(int(round_half_up(minutes)), 60)
    if hours and rest:
        return gettext("{hours} h {rest} min").format(hours=hours, rest=rest)
    return f"{hours} h" if hours else gettext("{rest} min").format(rest=rest)


def three_figures(degrees: float) -> str:
    """Return a direction in three figures, 0 to 359: 47.2 gives 047°."""
    return f"{int(round_half_up(degrees)) % 360:03d}\u00b0"


def east_west(degrees: float) -> str:
    """Return a signed angle as east (positive) or west: -4 gives 4° W."""
    return f"{fixed(abs(degrees), 0)}\u00b0 {'E' if degrees >= 0 else 'W'}"


def degrees_minutes(degrees: float) -> str:
    """Return an angle in degrees and minutes with one decimal: 38.625 gives 38° 37.5′."""
    tenths = int(round_half_up(abs(degrees) * 600))
    return f"{tenths // 600}\u00b0 {tenths % 600 // 10:02d}.{tenths % 10}\u2032"


def whole(x: float) -> int:
    """Round to the nearest whole number, halves away from zero."""
    return int(round_half_up(x))


def count(number: float, noun: str) -> str:
    """Return a number with its noun: 1 twelfth, 9 twelfths, 1.5 miles."""
    rounded = round_half_up(number, 2)
    return f"{rounded:g} {noun}{'' if rounded == 1 else 's'}"


def article(word: str) -> str:
    """Return a word with its article, by its first letter: an east, a west."""
    return f"{'an' if word[:1].lower() in 'aeiou' else 'a'} {word}"


def two_figures(minutes: float, digits: int = 0) -> str:
    """Return minutes of arc with two figures before the point: 9 gives 09, 9.5 with one decimal
    09.5."""
    return fixed(minutes, digits).zfill(digits + 3 if digits else 2)


def choose_word(index: int, *words: Value) -> Value:
    """Return the word at a place, counted from 0."""
    return words[int(index)]


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "abs": abs,
    "min": min,
    "max": max,
    "floor": math.floor,
    "ceil": math.ceil,
    "sqrt": math.sqrt,
    "sin": lambda degrees: math.sin(math.radians(degrees)),
    "cos": lambda degrees: math.cos(math.radians(degrees)),
    "tan": lambda degrees: math.tan(math.radians(degrees)),
    "acos": lambda x: math.degrees(math.acos(x)),
    "asin": lambda x: math.degrees(math.asin(x)),
    "hypot": math.hypot,
    "direction": lambda east, north: math.degrees(math.atan2(east, north)) % 360,
    "round": round_half_up,
    "whole": whole,
    "fixed": fixed,
    "clock": clock,
    "duration": duration,
    "three_figures": three_figures,
    "east_west": east_west,
    "degrees_minutes": degrees_minutes,
    "choose": choose_word,
    "count": count,
    "article": article,
    "two_figures": two_figures,
    "lower": lambda text: str(text).lower(),
    "upper_first": lambda text: str(text)[:1].upper() + str(text)[1:],
    "text": str,
}


# Python's own parser counts its depth per interpreter: two threads in it at once fail.
_parsing = threading.Lock()


@lru_cache(maxsize=8192)
def _parsed(expression: str) -> Any:
    try:
        with _parsing:
            return SimpleEval.parse(expression.strip())
    except (InvalidExpression, SyntaxError) as error:
        raise ExpressionError(
            gettext("cannot read “{expression}”: {error}").format(
                expression=expression, error=error
            )
        ) from error


def evaluate(expression: str | float, variables: Mapping[str, Value]) -> Value:
    """Evaluate an expression with a version's variables. ExpressionError says what is wrong."""
    if not isinstance(expression, str):
        return expression
    tree = _parsed(expression)
    evaluator = SimpleEval(functions=FUNCTIONS, names=dict(variables))
    for node in (ast.Attribute, ast.Subscript, ast.JoinedStr):
        evaluator.nodes.pop(node, None)
    try:
        value = evaluator.eval(expression, previously_parsed=tree)
    except (
        InvalidExpression,
        ArithmeticError,
        TypeError,
        ValueError,
        IndexError,
        KeyError,
    ) as error:
        raise ExpressionError(
            gettext("cannot work out “{expression}”: {error}").format(
                expression=expression, error=error
            )
        ) from error
    if not isinstance(value, int | float | str | bool):
        raise ExpressionError(f"“{expression}” gives a {type(value).__name__}")
    if isinstance(value, float) and not math.isfinite(value):
        raise ExpressionError(
            gettext("“{expression}” gives {value}").format(expression=expression, value=value)
        )
    return value


def evaluate_number(expression: str | float, variables: Mapping[str, Value]) -> float:
    """Like `evaluate`, but the value must be a number."""
    value = evaluate(expression, variables)
    if isinstance(value, str | bool):
        raise ExpressionError(
            gettext("“{expression}” gives {value!r} where a number is wanted").format(
                expression=expression, value=value
            )
        )
    return float(value)
