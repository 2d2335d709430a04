"""QTI 3's expressions on numbers."""

from __future__ import annotations

import cmath
import math
import statistics
from collections.abc import Callable, Sequence
from decimal import ROUND_HALF_UP, Decimal, InvalidOperation
from functools import reduce
from typing import cast

from vendaval_core.language import gettext

from .nodes import Node
from .run import Of, Run
from .values import NUMERIC, BaseType, Container, ProcessingError, single

MOST_FIGURES = 100


def numbers(node: Node, args: Sequence[Container]) -> list[float] | None:
    """Return all numbers in the arguments, or None if one is NULL. ProcessingError for others."""
    found: list[float] = []
    for arg in args:
        if arg.null:
            return None
        if arg.base not in {*NUMERIC, "duration"}:
            raise ProcessingError(
                gettext("{name} takes numbers, not {base}").format(name=node.name, base=arg.base),
                node.line,
            )
        found.extend(cast(float, value) for value in arg.values)
    return found


def _base(args: Sequence[Container]) -> BaseType:
    return "integer" if all(arg.base == "integer" for arg in args) else "float"


def _number(base: BaseType, value: float | None) -> Container:
    if value is None or (isinstance(value, float) and math.isnan(value)):
        return Container("single", base)
    return single(base, int(value) if base == "integer" else float(value))


def _over(work: Callable[[list[float]], float]) -> Callable[..., Container]:
    """All numbers together, whole where all are."""

    def does(run: Run, node: Node, args: Sequence[Container]) -> Container:
        found = numbers(node, args)
        base = _base(args)
        if found is None or not found:
            return Container("single", base)
        try:
            return _number(base, work(found))
        except (OverflowError, ValueError):
            return Container("single", base)

    return does


def _two(
    work: Callable[[float, float], float | None], base: BaseType | None = None
) -> Callable[..., Container]:
    """Two single numbers. base: of the result, by default that of both."""

    def does(run: Run, node: Node, args: Sequence[Container]) -> Container:
        found = numbers(node, args)
        kind = base or _base(args)
        if found is None or len(found) != 2:
            return Container("single", kind)
        try:
            return _number(kind, work(found[0], found[1]))
        except (OverflowError, ValueError):
            return Container("single", kind)

    return does


def _power(x: float, y: float) -> float | None:
    if x == 0 and y < 0:
        return None
    raised = math.pow(x, y)
    return raised if math.isfinite(raised) else None


def _divide(x: float, y: float) -> float | None:
    return x / y if y else None


def _integer_divide(x: float, y: float) -> float | None:
    return int(x) // int(y) if y else None


def _modulus(x: float, y: float) -> float | None:
    return int(x) % int(y) if y else None


def _to_whole(work: Callable[[float], int]) -> Callable[..., Container]:
    def does(run: Run, node: Node, args: Sequence[Container]) -> Container:
        found = numbers(node, args)
        if found is None or not math.isfinite(found[0]):
            return Container("single", "integer")
        return single("integer", work(found[0]))

    return does


def _to_float(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    if found is None:
        return Container(args[0].cardinality, "float")
    return Container(args[0].cardinality, "float", tuple(float(one) for one in found))


def figures_of(run: Run, node: Node) -> int:
    """Return the `figures` of a node: a number, or a variable's name."""
    said = node.get("figures", "0")
    if not said.lstrip("+-").isdigit():
        held = run.named(said, node).copy_of(run.values)
        said = str(held.values[0]) if held.values else "0"
    if not said.isdigit() or int(said) > MOST_FIGURES:
        raise ProcessingError(
            gettext("“{said}” are no figures to round to").format(said=said[:20]), node.line
        )
    return int(said)


def rounded(number: float, mode: str, figures: int, node: Node) -> float | None:
    """Return a number rounded to decimal places or significant figures, halves away from zero."""
    if not math.isfinite(number):
        return number
    if mode == "significantFigures" and figures < 1:
        raise ProcessingError(gettext("significant figures begin at 1"), node.line)
    exact = Decimal(repr(float(number)))
    places = figures
    if mode == "significantFigures":
        places = 0 if not exact else figures - exact.adjusted() - 1
    try:
        return float(exact.quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP))
    except InvalidOperation:
        return number


def _round_to(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    if found is None:
        return Container("single", "float")
    mode = node.get("rounding-mode", "significantFigures")
    return single("float", rounded(found[0], mode, figures_of(run, node), node))


def _gcd(found: list[float]) -> float:
    return math.gcd(*(int(one) for one in found))


def _lcm(found: list[float]) -> float:
    return math.lcm(*(int(one) for one in found))


def _product(found: list[float]) -> float:
    return reduce(lambda x, y: x * y, found)


def _stats(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    work: dict[str, tuple[Callable[[list[float]], float], int]] = {
        "mean": (statistics.fmean, 1),
        "sampleVariance": (statistics.variance, 2),
        "sampleSD": (statistics.stdev, 2),
        "popVariance": (statistics.pvariance, 1),
        "popSD": (statistics.pstdev, 1),
    }
    name = node.get("name")
    if name not in work:
        raise ProcessingError(
            gettext("“{name}” is no statistics that is known").format(name=name), node.line
        )
    does, least = work[name]
    if found is None or len(found) < least or not all(map(math.isfinite, found)):
        return Container("single", "float")
    return single("float", float(does(found)))


def _of_reciprocal(work: Callable[[float], float]) -> Callable[[float], float]:
    return lambda x: work(1 / x)


def _real(work: Callable[[complex], complex]) -> Callable[[float], float]:
    return lambda x: 1 / work(x).real


_MATH: dict[str, Callable[[float], float]] = {
    "sin": math.sin,
    "cos": math.cos,
    "tan": math.tan,
    "sec": lambda x: 1 / math.cos(x),
    "csc": lambda x: 1 / math.sin(x),
    "cot": lambda x: 1 / math.tan(x),
    "asin": math.asin,
    "acos": math.acos,
    "atan": math.atan,
    "asec": _of_reciprocal(math.acos),
    "acsc": _of_reciprocal(math.asin),
    "acot": _of_reciprocal(math.atan),
    "sinh": math.sinh,
    "cosh": math.cosh,
    "tanh": math.tanh,
    "sech": _real(cmath.cosh),
    "csch": _real(cmath.sinh),
    "coth": _real(cmath.tanh),
    "log": math.log10,
    "ln": math.log,
    "exp": math.exp,
    "abs": abs,
    "toDegrees": math.degrees,
    "toRadians": math.radians,
}
_MATH_WHOLE: dict[str, Callable[[float], float]] = {
    "signum": lambda x: (x > 0) - (x < 0),
    "floor": math.floor,
    "ceil": math.ceil,
}


def _math(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    name = node.get("name")
    base: BaseType = "integer" if name in _MATH_WHOLE else "float"
    known = name in _MATH or name in _MATH_WHOLE
    if not (known and len(args) == 1) and not (name == "atan2" and len(args) == 2):
        raise ProcessingError(
            gettext("“{name}” is no function that is known").format(name=name), node.line
        )
    if found is None:
        return Container("single", base)
    try:
        if name == "atan2":
            return single("float", math.atan2(found[0], found[1]))
        if name == "abs" and args[0].base == "integer":
            return single("integer", abs(int(found[0])))
        if name in _MATH_WHOLE:
            return single("integer", int(_MATH_WHOLE[name](found[0])))
        if name in {"ln", "log"} and found[0] == 0:
            return single("float", -math.inf)
        return single("float", float(_MATH[name](found[0])))
    except (ValueError, ZeroDivisionError, OverflowError):
        return Container("single", base)


def _constant(run: Run, node: Node, args: Sequence[Container]) -> Container:
    known = {"pi": math.pi, "e": math.e}
    name = node.get("name")
    if name not in known:
        raise ProcessingError(
            gettext("“{name}” is no constant that is known").format(name=name), node.line
        )
    return single("float", known[name])


OPERATORS: dict[str, Of] = {
    "qti-sum": Of(_over(lambda found: sum(found)), 1, None),
    "qti-product": Of(_over(_product), 1, None),
    "qti-subtract": Of(_two(lambda x, y: x - y), 2, 2),
    "qti-divide": Of(_two(_divide, "float"), 2, 2),
    "qti-power": Of(_two(_power, "float"), 2, 2),
    "qti-integer-divide": Of(_two(_integer_divide, "integer"), 2, 2),
    "qti-integer-modulus": Of(_two(_modulus, "integer"), 2, 2),
    "qti-truncate": Of(_to_whole(math.trunc), 1, 1),
    "qti-round": Of(_to_whole(lambda x: math.floor(x + 0.5)), 1, 1),
    "qti-round-to": Of(_round_to, 1, 1),
    "qti-integer-to-float": Of(_to_float, 1, 1),
    "qti-gcd": Of(_over(_gcd), 1, None),
    "qti-lcm": Of(_over(_lcm), 1, None),
    "qti-min": Of(_over(min), 1, None),
    "qti-max": Of(_over(max), 1, None),
    "qti-stats-operator": Of(_stats, 1, 1),
    "qti-math-operator": Of(_math, 1, 2),
    "qti-math-constant": Of(_constant),
}
