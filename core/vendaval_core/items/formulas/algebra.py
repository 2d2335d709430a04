"""Reading formulas and comparing them as mathematics, with sympy.

A formula is worked out from its syntax tree, node by node: nothing typed is ever evaluated as
code. Runs in a worker that is killed at its limit (`workers.py`), since algebra can take for ever.
"""

from __future__ import annotations

import ast
import math
from collections.abc import Callable
from fractions import Fraction
from typing import Any

import sympy  # type: ignore[import-untyped]

from vendaval_core.language import gettext

from .syntax import LONGEST, FormulaUnreadable, formula_tree

# Powers and digits grow when brackets are multiplied out; within these limits the worker
# answers well inside its time.
LARGEST_POWER = 12
LARGEST_BITS = 2000
MOST_TERMS = 400
# Where two formulas are compared as numbers first: no roots of common formulas lie there.
POINTS = (Fraction(3, 7), Fraction(11, 5), Fraction(-5, 3), Fraction(17, 13))
# Not worked out while reading: sympy asks a lot about the sign of what is inside.
FUNCTIONS: dict[str, Callable[[Any], Any]] = {
    "sqrt": lambda x: sympy.Pow(x, sympy.Rational(1, 2), evaluate=False),
    "sin": lambda x: sympy.sin(x, evaluate=False),
    "cos": lambda x: sympy.cos(x, evaluate=False),
    "tan": lambda x: sympy.tan(x, evaluate=False),
}


def _power(base: Any, exponent: Any) -> Any:
    if not exponent.is_Rational or abs(exponent) > LARGEST_POWER:
        raise FormulaUnreadable(
            gettext("The largest power you can use here is {largest_power}.").format(
                largest_power=LARGEST_POWER
            )
        )
    if not (base.is_Rational and exponent.is_Integer):
        return sympy.Pow(base, exponent, evaluate=False)
    if _bits(base) * abs(exponent) > LARGEST_BITS:
        raise FormulaUnreadable(gettext("That number is too large."))
    if base == 0 and exponent.is_negative:
        raise FormulaUnreadable(gettext("That divides by 0."))
    return base**exponent


def _bits(number: Any) -> int:
    return int(max(abs(number.p).bit_length(), number.q.bit_length()))


def _converted(node: ast.AST, symbols: dict[str, Any]) -> Any:
    match node:
        case ast.Constant(value=value):
            return sympy.Rational(str(value))
        case ast.Name(id=name):
            return symbols[name]
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return -_converted(operand, symbols)
        case ast.UnaryOp(operand=operand):
            return _converted(operand, symbols)
        case ast.BinOp(left=left, op=operator, right=right):
            return _worked_out(operator, _converted(left, symbols), _converted(right, symbols))
        case ast.Call(func=ast.Name(id=name), args=[argument]):
            return FUNCTIONS[name](_converted(argument, symbols))
    raise AssertionError(node)


def _worked_out(operator: ast.operator, one: Any, other: Any) -> Any:
    match operator:
        case ast.Add():
            return one + other
        case ast.Sub():
            return one - other
        case ast.Mult():
            return one * other
        case ast.Div():
            if other == 0:
                raise FormulaUnreadable(gettext("That divides by 0."))
            return one / other
    return _power(one, other)


def expanded_size(expression: Any) -> int:
    """Return an upper limit for the number of products after multiplying out, without doing it.

    A power of t terms to n has C(t + n - 1, n) terms; a product has as many as its factors'
    product.
    """
    if expression.is_Add:
        return sum(expanded_size(term) for term in expression.args)
    if expression.is_Mul:
        return math.prod(expanded_size(factor) for factor in expression.args)
    if expression.is_Pow:
        base, exponent = expression.as_base_exp()
        if exponent.is_Rational and exponent >= 2:
            power = int(exponent)
            return math.comb(expanded_size(base) + power - 1, power)
        return expanded_size(base)
    return max((expanded_size(inner) for inner in expression.args), default=1)


def read_formula(text: str, symbols: tuple[str, ...]) -> Any:
    """Read a typed formula as a sympy expression. Raises FormulaUnreadable with the reason."""
    names = {name: sympy.Symbol(name) for name in symbols} | {"pi": sympy.pi}
    found = _converted(formula_tree(text, symbols), names)
    if expanded_size(found) > MOST_TERMS:
        raise FormulaUnreadable(gettext("That is too long to multiply out. Write it more simply."))
    return found


def warm_up() -> None:
    """Load everything that sympy loads at first use, which takes longer than any formula."""
    compare("sqrt(x/3) + sin(2x)", "sin(2x) + cos(pi/3)tan(x) + sqrt(12/tan(3))", ("x",), "any")
    compare("(x - 1)(x + 1)", "x^2 - 1", ("x",), "factorised")


def _equal(one: Any, other: Any) -> bool:
    difference = sympy.expand(one - other)
    if difference == 0:
        return True
    free = sorted(difference.free_symbols, key=str)
    for start in range(3):
        point = {s: POINTS[(i + start) % len(POINTS)] for i, s in enumerate(free)}
        value = difference.subs({s: sympy.Rational(str(v)) for s, v in point.items()}).evalf(30)
        if not value.is_number or value.has(sympy.zoo, sympy.nan) or abs(value) > 1e-20:
            return False
    return True


def _has_product_of_sum(node: ast.AST) -> bool:
    """Whether a sum is multiplied or raised to a power anywhere."""
    for inner in ast.walk(node):
        if isinstance(inner, ast.BinOp) and isinstance(inner.op, ast.Mult | ast.Pow):
            sides = [inner.left] if isinstance(inner.op, ast.Pow) else [inner.left, inner.right]
            for side in sides:
                if isinstance(side, ast.BinOp) and isinstance(side.op, ast.Add | ast.Sub):
                    return True
    return False


def _is_factorised(expression: Any) -> bool:
    if not (expression.is_Mul or expression.is_Pow):
        return False
    for factor in sympy.Mul.make_args(expression):
        base = factor.as_base_exp()[0]
        if base.is_Add:
            content, factors = sympy.factor_list(base)
            if len(factors) != 1 or factors[0][1] != 1 or content not in {1, -1}:
                return False
    return True


def _operations(tree: ast.AST) -> int:
    return sum(isinstance(node, ast.BinOp | ast.UnaryOp | ast.Call) for node in ast.walk(tree))


def compare(answer: str, typed: str, symbols: tuple[str, ...], form: str) -> tuple[str, str, str]:
    """Compare a typed formula with the right one: return verdict, canonical text and feedback.

    verdict: right, form (equal, but not in the form asked for), wrong or unreadable. "Simplified"
    means no more operations than the author's own answer.
    """
    try:
        tree = formula_tree(typed, symbols)
        given = read_formula(typed, symbols)
    except FormulaUnreadable as error:
        return "unreadable", "", str(error)
    canonical = str(sympy.expand(given))[:LONGEST]
    if not _equal(given, read_formula(answer, symbols)):
        return "wrong", canonical, ""
    if form == "expanded" and _has_product_of_sum(tree):
        return (
            "form",
            f"form {typed}",
            gettext(
                "It has the same value, but the question asks you to multiply out the brackets."
            ),
        )
    if form == "factorised" and not _is_factorised(given):
        return (
            "form",
            f"form {typed}",
            gettext("It has the same value, but the question asks for a product."),
        )
    if form == "simplified" and _operations(tree) > _operations(formula_tree(answer, symbols)):
        return (
            "form",
            f"form {typed}",
            gettext("It has the same value, but you can write it more simply."),
        )
    return "right", canonical, ""


def compare_all(
    typed: str, answer: str, misses: tuple[str, ...], symbols: tuple[str, ...], form: str
) -> tuple[str, str, str, int]:
    """Like `compare`, with the number of the foreseen wrong formula that it equals, or -1."""
    verdict, canonical, says = compare(answer, typed, symbols, form)
    if verdict == "wrong":
        given = read_formula(typed, symbols)
        for number, miss in enumerate(misses):
            if _equal(given, read_formula(miss, symbols)):
                return verdict, canonical, says, number
    return verdict, canonical, says, -1
