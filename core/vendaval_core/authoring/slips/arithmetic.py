"""Formulas worked out on many versions at once."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vendaval_core.items.expressions import FUNCTIONS

Array = NDArray[np.float64]
Node = ast.expr

_JOINS: Mapping[type[ast.operator], Callable[[Any, Any], Any]] = {
    ast.Add: np.add,
    ast.Sub: np.subtract,
    ast.Mult: np.multiply,
    ast.Div: np.divide,
    ast.Mod: np.mod,
    ast.Pow: np.power,
}
_COMPARES: Mapping[type[ast.cmpop], Callable[[Any, Any], Any]] = {
    ast.Eq: np.equal,
    ast.NotEq: np.not_equal,
    ast.Lt: np.less,
    ast.LtE: np.less_equal,
    ast.Gt: np.greater,
    ast.GtE: np.greater_equal,
}
_NUMERIC = {
    *("abs", "min", "max", "floor", "ceil", "sqrt", "sin", "cos", "tan", "acos", "asin", "hypot"),
    *("direction", "round", "choose"),
}  # fmt: skip


class NotArithmetic(Exception):
    """A formula has something in it that is no arithmetic."""


def parsed(formula: str) -> Node:
    """A formula as a tree; NotArithmetic when it is none."""
    try:
        return ast.parse(formula.strip(), mode="eval").body
    except SyntaxError as error:
        raise NotArithmetic(formula) from error


def worked_out(node: Node, values: Mapping[str, Any], versions: int) -> Array:
    """What a formula gives in each version; not a number where it can't be worked out."""
    with np.errstate(all="ignore"):
        found = _value(node, values)
    return np.broadcast_to(np.asarray(found, float), (versions,)).astype(float)


def _value(node: Node, values: Mapping[str, Any]) -> Any:
    match node:
        case ast.Constant(value=bool() | int() | float() | str()):
            return node.value
        case ast.Name() if node.id in values:
            return values[node.id]
        case ast.BinOp() if type(node.op) in _JOINS:
            left, right = _value(node.left, values), _value(node.right, values)
            return _JOINS[type(node.op)](left, right)
        case ast.UnaryOp(op=ast.USub()):
            return np.negative(_value(node.operand, values))
        case ast.IfExp():
            return np.where(
                _value(node.test, values), _value(node.body, values), _value(node.orelse, values)
            )
        case ast.Compare(ops=[op]) if type(op) in _COMPARES:
            return _COMPARES[type(op)](
                _value(node.left, values), _value(node.comparators[0], values)
            )
        case ast.Call(func=ast.Name(id=name)) if name in _NUMERIC and not node.keywords:
            return _called(name, [_value(one, values) for one in node.args])
    raise NotArithmetic(ast.dump(node))


def _called(name: str, given: list[Any]) -> Any:
    function = FUNCTIONS[name]

    def safely(*one: Any) -> float:
        try:
            return float(function(*one))
        except (ValueError, ZeroDivisionError, TypeError, OverflowError, IndexError):
            return float("nan")

    return np.vectorize(safely, otypes=[float])(*given)
