"""Reading formulas and comparing them as mathematics, with sympy.

A formula is read from Python's own syntax tree, node by node: nothing typed is ever evaluated as
code. Runs in a worker that is killed at its limit (`workers.py`), since algebra can take for ever.
"""

from __future__ import annotations

import ast
import math
import re
import warnings
from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

import sympy  # type: ignore[import-untyped]

from vendaval_core.language import gettext

LONGEST = 200
DEEPEST = 24
# Powers and digits grow when brackets are multiplied out; within these limits the worker
# answers well inside its time.
LARGEST_POWER = 12
LARGEST_DIGITS = 9
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
_SWAPS = {
    **dict.fromkeys("\u2212\u2010\u2011\u2013\u2014", "-"),
    **dict.fromkeys("\u00b7\u00d7\u2022\u22c5\u2219", "*"),
    "\u00f7": "/",
    "^": "**",
    "\u00b2": "**2",
    "\u00b3": "**3",
}


class FormulaUnreadable(ValueError):
    """Why a formula cannot be read, said to the learner."""


def _with_products(text: str, symbols: tuple[str, ...]) -> str:
    """Multiplication signs put where they are left out: 2x, 3(x+1), xy."""
    names = sorted((*FUNCTIONS, "pi", *symbols), key=len, reverse=True)
    number, name = r"\d+(?:\.\d+)?", "|".join(map(re.escape, names))
    tokens = re.findall(rf"{number}|{name}|\*\*|[-+*/()]|\S", text)
    found: list[str] = []
    for token in tokens:
        if found:
            before = found[-1]
            ends = (
                before == ")"
                or before[0].isdigit()
                or (before in names and before not in FUNCTIONS)
            )
            begins = token[0] == "(" or token[0].isdigit() or token in names
            if ends and begins:
                found.append("*")
        found.append(token)
    return "".join(found)


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


def _unknown_name(name: str, symbols: Mapping[str, Any]) -> str:
    """What a learner reads about a letter that the question doesn’t have."""
    letters = [symbol for symbol in symbols if symbol != "pi"]
    if not letters:
        return gettext("The answer has no “{name}”. Write only numbers.").format(name=name)
    return gettext("The question has no “{name}”. Use {letters}.").format(
        name=name, letters=", ".join(letters)
    )


def _converted(node: ast.AST, symbols: dict[str, Any], depth: int) -> Any:
    if depth > DEEPEST:
        raise FormulaUnreadable(gettext("That formula has too many brackets inside brackets."))

    def inner(child: ast.AST) -> Any:
        return _converted(child, symbols, depth + 1)

    match node:
        case ast.Constant(value=int() | float() as value) if not isinstance(value, bool):
            if len(str(value)) > LARGEST_DIGITS or "e" in str(value) or value == math.inf:
                raise FormulaUnreadable(gettext("That number is too long."))
            return sympy.Rational(str(value))
        case ast.Name(id=name) if name in symbols:
            return symbols[name]
        case ast.Name(id=name):
            raise FormulaUnreadable(_unknown_name(name, symbols))
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return -inner(operand)
        case ast.UnaryOp(op=ast.UAdd(), operand=operand):
            return inner(operand)
        case ast.BinOp(left=left, op=operator, right=right):
            one, other = inner(left), inner(right)
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
                case ast.Pow():
                    return _power(one, other)
        case ast.Call(func=ast.Name(id=name), args=[argument], keywords=[]) if name in FUNCTIONS:
            return FUNCTIONS[name](inner(argument))
    raise FormulaUnreadable(
        gettext("Use only numbers, the letters of the question, + − × ÷ and powers.")
    )


def _right_side(text: str) -> str:
    """What a formula says of its subject: vt of d = vt."""
    return re.sub(r"^\s*[A-Za-z]\s*=(?!=)", "", text)


def _in_its_letters(text: str, symbols: tuple[str, ...]) -> str:
    """The text with V for v, or v for V, where the question has only one of them."""
    swaps = {s.swapcase(): s for s in symbols if s.swapcase() not in symbols}
    if not swaps:
        return text
    return re.sub(
        rf"{'|'.join(FUNCTIONS)}|pi|[A-Za-z]", lambda m: swaps.get(m.group(), m.group()), text
    )


def _tree(text: str, symbols: tuple[str, ...]) -> ast.expr:
    if len(text) > LONGEST:
        raise FormulaUnreadable(
            gettext("That is too long. Use at most {longest} characters.").format(longest=LONGEST)
        )
    for old, new in _SWAPS.items():
        text = text.replace(old, new)
    text = _right_side(re.sub(r"(\d),(\d)", r"\1.\2", text).strip().rstrip("."))
    text = _in_its_letters(text, symbols)
    if not text.strip():
        raise FormulaUnreadable(gettext("You haven’t typed anything yet."))
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", SyntaxWarning)
            return ast.parse(_with_products(text, symbols), mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError) as error:
        raise FormulaUnreadable(
            gettext("This formula isn’t finished. Check the end of it.")
        ) from error


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
    found = _converted(_tree(text, symbols), names, 0)
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
        tree = _tree(typed, symbols)
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
    if form == "simplified" and _operations(tree) > _operations(_tree(answer, symbols)):
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
