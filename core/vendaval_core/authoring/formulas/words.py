"""A formula as its author reads it: in words, and as maths."""

from __future__ import annotations

import ast
from collections.abc import Mapping

from vendaval_core.language import gettext

_BINDS: Mapping[type[ast.operator], int] = {
    ast.Add: 1, ast.Sub: 1, ast.Mult: 2, ast.Div: 2, ast.Mod: 2,
}  # fmt: skip


def in_words(formula: str) -> str:
    """A formula in words: “miles times 60, divided by speed”."""
    return _spoken(ast.parse(formula, mode="eval").body, 0)


def _spoken(node: ast.expr, least: int) -> str:
    if isinstance(node, ast.BinOp):
        binds = _BINDS[type(node.op)]
        left, right = _spoken(node.left, binds), _spoken(node.right, binds + 1)
        comma = "," if isinstance(node.left, ast.BinOp) else ""
        says = f"{left}{comma} {_join(node.op)} {right}"
        return f"({says})" if binds < least else says
    if isinstance(node, ast.Call):
        assert isinstance(node.func, ast.Name), "functions have names"
        return f"{_function(node.func.id)} ({_spoken(node.args[0], 0)})"
    return ast.unparse(node)


def _join(op: ast.operator) -> str:
    match op:
        case ast.Add():
            return gettext("plus")
        case ast.Sub():
            return gettext("less")
        case ast.Mult():
            return gettext("times")
        case ast.Div():
            return gettext("divided by")
    return gettext("within")


def _function(name: str) -> str:
    return {
        "sqrt": gettext("the square root of"),
        "sin": gettext("the sine of"),
        "cos": gettext("the cosine of"),
        "tan": gettext("the tangent of"),
        "asin": gettext("the angle whose sine is"),
        "ceil": gettext("the next whole number from"),
        "floor": gettext("the whole part of"),
    }[name]


def as_maths(formula: str) -> str:
    """A formula as TeX."""
    return _tex(ast.parse(formula, mode="eval").body, 0)


def _tex(node: ast.expr, least: int) -> str:
    if isinstance(node, ast.BinOp):
        if isinstance(node.op, ast.Div):
            return rf"\frac{{{_tex(node.left, 0)}}}{{{_tex(node.right, 0)}}}"
        binds = _BINDS[type(node.op)]
        sign = {ast.Add: "+", ast.Sub: "-", ast.Mult: r"\times", ast.Mod: r"\bmod"}
        left, right = _tex(node.left, binds), _tex(node.right, binds + 1)
        says = f"{left} {sign[type(node.op)]} {right}"
        return rf"\left({says}\right)" if binds < least else says
    if isinstance(node, ast.Call):
        assert isinstance(node.func, ast.Name), "functions have names"
        name, inner = node.func.id, _tex(node.args[0], 0)
        if name == "sqrt":
            return rf"\sqrt{{{inner}}}"
        if name in {"ceil", "floor"}:
            return rf"\l{name} {inner} \r{name}"
        return rf"\{'arcsin' if name == 'asin' else name}\left({inner}\right)"
    if isinstance(node, ast.Name):
        return rf"\text{{{node.id.replace('_', ' ')}}}"
    return ast.unparse(node)
