"""Small changes to a formula: what people do who nearly know it."""

from __future__ import annotations

import ast
import copy
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

from vendaval_core.language import gettext

from .arithmetic import Node

SWAPS = {"sin": "cos", "cos": "sin", "tan": "sin", "ceil": "floor", "floor": "ceil", "min": "max"}
FACTORS = (60, 100, 10, 2)
MOST_CHANGES = 900


@dataclass(frozen=True, slots=True)
class Changed:
    """A formula with one change. how: in words."""

    node: Node
    how: str

    @property
    def text(self) -> str:
        """In the language of packs."""
        return ast.unparse(self.node)


def changes(node: Node, names: Sequence[str]) -> Iterator[Changed]:
    """Formulas that differ by one slip, the likelier first. names: of numbers of the question."""
    seen = {ast.unparse(node)}
    made = [*_inside(node, names), *_outside(node)]
    for one in made[:MOST_CHANGES]:
        if one.text not in seen:
            seen.add(one.text)
            yield one


def _outside(node: Node) -> Iterator[Changed]:
    for factor in FACTORS:
        by = ast.Constant(factor)
        yield Changed(_join(node, ast.Mult(), by), gettext("times {by} too many").format(by=factor))
        yield Changed(_join(node, ast.Div(), by), gettext("divided by {by}").format(by=factor))
    for off in (1, -1):
        yield Changed(_join(node, ast.Add(), ast.Constant(off)), gettext("off by one"))
    yield Changed(_join(ast.Constant(1), ast.Div(), node), gettext("the inverse"))
    yield Changed(ast.UnaryOp(ast.USub(), node), gettext("the wrong sign"))
    yield Changed(_join(ast.Constant(180), ast.Sub(), node), gettext("taken from 180"))
    yield Changed(_join(ast.Constant(360), ast.Sub(), node), gettext("taken from 360"))
    yield Changed(_join(ast.Constant(100), ast.Sub(), node), gettext("taken from 100"))


def _join(left: Node, op: ast.operator, right: Node) -> Node:
    return ast.BinOp(copy.deepcopy(left), op, copy.deepcopy(right))


def _inside(whole: Node, names: Sequence[str]) -> Iterator[Changed]:
    """Each place of the formula with each thing that goes wrong there."""
    constants = [path for path in _places(whole) if isinstance(_at(whole, path), ast.Constant)]
    for first, second in combinations(constants, 2):
        one = _with(_with(whole, first, _at(whole, second)), second, _at(whole, first))
        yield Changed(one, gettext("two numbers exchanged"))
    for path in _places(whole):
        for replaced, how in _slips_at(_at(whole, path), names):
            yield Changed(_with(whole, path, replaced), how)


Path = tuple[tuple[str, int | None], ...]


def _places(node: Node, path: Path = ()) -> Iterator[Path]:
    yield path
    for name, value in ast.iter_fields(node):
        if isinstance(value, ast.expr):
            yield from _places(value, (*path, (name, None)))
        elif isinstance(value, list):
            for place, one in enumerate(value):
                if isinstance(one, ast.expr):
                    yield from _places(one, (*path, (name, place)))


def _at(node: Node, path: Path) -> Node:
    for name, place in path:
        value = getattr(node, name)
        node = value if place is None else value[place]
    return node


def _with(whole: Node, path: Path, replaced: Node) -> Node:
    if not path:
        return replaced
    made = copy.deepcopy(whole)
    *before, (name, place) = path
    holder = _at(made, tuple(before))
    if place is None:
        setattr(holder, name, copy.deepcopy(replaced))
    else:
        getattr(holder, name)[place] = copy.deepcopy(replaced)
    return made


def _slips_at(node: Node, names: Sequence[str]) -> Iterator[tuple[Node, str]]:
    if isinstance(node, ast.BinOp):
        yield from _of_join(node)
    if isinstance(node, ast.IfExp):
        yield ast.IfExp(node.test, node.orelse, node.body), gettext("the cases the wrong way round")
        yield node.body, gettext("always as in the first case")
        yield node.orelse, gettext("always as in the other case")
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
        name = node.func.id
        if name in SWAPS:
            says = gettext("{wrong} for {right}").format(wrong=SWAPS[name], right=name)
            yield ast.Call(ast.Name(SWAPS[name]), node.args, []), says
        for one in node.args[:1]:
            yield one, gettext("without {what}").format(what=name)
    if isinstance(node, ast.Name) and node.id in names:
        for other in names:
            if other != node.id:
                says = gettext("{wrong} for {right}").format(wrong=other, right=node.id)
                yield ast.Name(other), says
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        for constant in (60, 100, 10, 90, 180, 360, 1, 2, 3, 6, 12, 24):
            if constant != node.value:
                says = gettext("{wrong} for {right}").format(wrong=constant, right=node.value)
                yield ast.Constant(constant), says
    if not isinstance(node, ast.Constant):
        for digits in (0, 1):
            rounded = ast.Call(ast.Name("round"), [node, ast.Constant(digits)], [])
            yield rounded, gettext("rounded too early")
        yield _join(node, ast.Add(), ast.Constant(1)), gettext("off by one within it")
        yield _join(node, ast.Sub(), ast.Constant(1)), gettext("off by one within it")
        yield _join(node, ast.Mult(), ast.Constant(2)), gettext("doubled within it")
        yield _join(node, ast.Div(), ast.Constant(2)), gettext("halved within it")
        yield _join(node, ast.Div(), ast.Constant(60)), gettext("divided by 60 within it")
        yield _join(node, ast.Div(), ast.Constant(100)), gettext("divided by 100 within it")
        yield _join(ast.Constant(100), ast.Sub(), node), gettext("taken from 100 within it")


def _of_join(node: ast.BinOp) -> Iterator[tuple[Node, str]]:
    left, op, right = node.left, node.op, node.right
    if isinstance(left, ast.Call) and isinstance(right, ast.Call):
        inner = ast.BinOp(left.args[0], op, right.args[0])
        yield (
            ast.Call(left.func, [inner, *left.args[1:]], []),
            gettext("joined before the function"),
        )
    if isinstance(op, ast.Add | ast.Sub):
        other: ast.operator = ast.Sub() if isinstance(op, ast.Add) else ast.Add()
        says = gettext("taken away") if isinstance(op, ast.Add) else gettext("added")
        yield ast.BinOp(left, other, right), says
        yield ast.BinOp(right, ast.Sub(), left), gettext("taken away the wrong way round")
    if isinstance(op, ast.Mult):
        yield ast.BinOp(left, ast.Div(), right), gettext("divided instead of multiplied")
        yield ast.BinOp(right, ast.Div(), left), gettext("divided, the wrong way round")
        yield ast.BinOp(left, ast.Add(), right), gettext("added instead of multiplied")
    if isinstance(op, ast.Div):
        yield ast.BinOp(left, ast.Mult(), right), gettext("multiplied instead of divided")
        yield ast.BinOp(right, ast.Div(), left), gettext("divided the wrong way round")
    yield left, gettext("a step is missing: “{what}”").format(what=ast.unparse(right))
    yield right, gettext("a step is missing: “{what}”").format(what=ast.unparse(left))
