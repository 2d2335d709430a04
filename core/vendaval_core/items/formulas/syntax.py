"""Reading a formula as Python's own syntax tree, without working anything out: what it may hold,
and how it is written out again."""

from __future__ import annotations

import ast
import math
import re
import warnings

from vendaval_core.language import gettext

LONGEST = 200
DEEPEST = 24
LARGEST_DIGITS = 9
FUNCTION_NAMES = ("sqrt", "sin", "cos", "tan")
_SWAPS = {
    **dict.fromkeys("\u2212\u2010\u2011\u2013\u2014", "-"),
    **dict.fromkeys("\u00b7\u00d7\u2022\u22c5\u2219", "*"),
    "\u00f7": "/",
    "^": "**",
    "\u00b2": "**2",
    "\u00b3": "**3",
}
_OPERATORS = (ast.Add, ast.Sub, ast.Mult, ast.Div, ast.Pow)


class FormulaUnreadable(ValueError):
    """Why a formula cannot be read, said to the learner."""


def _with_products(text: str, symbols: tuple[str, ...]) -> str:
    """Multiplication signs put where they are left out: 2x, 3(x+1), xy."""
    names = sorted((*FUNCTION_NAMES, "pi", *symbols), key=len, reverse=True)
    number, name = r"\d+(?:\.\d+)?", "|".join(map(re.escape, names))
    tokens = re.findall(rf"{number}|{name}|\*\*|[-+*/()]|\S", text)
    found: list[str] = []
    for token in tokens:
        if found:
            before = found[-1]
            ends = (
                before == ")"
                or before[0].isdigit()
                or (before in names and before not in FUNCTION_NAMES)
            )
            begins = token[0] == "(" or token[0].isdigit() or token in names
            if ends and begins:
                found.append("*")
        found.append(token)
    return "".join(found)


def _unknown_name(name: str, symbols: tuple[str, ...]) -> str:
    """What a learner reads about a letter that the question doesn’t have."""
    if not symbols:
        return gettext("The answer has no “{name}”. Write only numbers.").format(name=name)
    return gettext("The question has no “{name}”. Use {letters}.").format(
        name=name, letters=", ".join(symbols)
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
        rf"{'|'.join(FUNCTION_NAMES)}|pi|[A-Za-z]", lambda m: swaps.get(m.group(), m.group()), text
    )


def formula_tree(text: str, symbols: tuple[str, ...]) -> ast.expr:
    """Return a formula's tree, which holds nothing but numbers, the letters, pi, the functions and
    the usual operators. Raises FormulaUnreadable with the reason."""
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
            tree = ast.parse(_with_products(text, symbols), mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError) as error:
        raise FormulaUnreadable(
            gettext("This formula isn’t finished. Check the end of it.")
        ) from error
    _check(tree, symbols, 0)
    return tree


def _check(node: ast.AST, symbols: tuple[str, ...], depth: int) -> None:
    if depth > DEEPEST:
        raise FormulaUnreadable(gettext("That formula has too many brackets inside brackets."))
    match node:
        case ast.Constant(value=int() | float() as value) if not isinstance(value, bool):
            if len(str(value)) > LARGEST_DIGITS or "e" in str(value) or value == math.inf:
                raise FormulaUnreadable(gettext("That number is too long."))
            return None
        case ast.Name(id=name) if name in symbols or name == "pi":
            return None
        case ast.Name(id=name):
            raise FormulaUnreadable(_unknown_name(name, symbols))
        case ast.UnaryOp(op=ast.USub() | ast.UAdd(), operand=operand):
            return _check(operand, symbols, depth + 1)
        case ast.BinOp(left=left, op=operator, right=right) if isinstance(operator, _OPERATORS):
            _check(left, symbols, depth + 1)
            return _check(right, symbols, depth + 1)
        case ast.Call(func=ast.Name(id=name), args=[argument], keywords=[]):
            if name in FUNCTION_NAMES:
                return _check(argument, symbols, depth + 1)
    raise FormulaUnreadable(
        gettext("Use only numbers, the letters of the question, + − × ÷ and powers.")
    )


def formula_words(tree: ast.expr) -> str:
    """Return a formula as people write it: 2·x + y^2."""
    text = ast.unparse(tree).replace(" ** ", "^").replace(" * ", "·").replace("-", "\u2212")
    return re.sub(r"(?<=\d)·(?=[A-Za-z(])", "", text)
