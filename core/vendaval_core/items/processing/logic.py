"""QTI 3's expressions that are true or false, with NULL where that can't be known."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Sequence
from typing import cast

import regex

from vendaval_core.language import gettext

from .nodes import Node
from .numeric import figures_of, numbers, rounded
from .run import Of, Run
from .shapes import is_inside, read_coords
from .values import NUMERIC, Container, ProcessingError, truth

LONGEST_PATTERN, SECONDS, MOST_PATTERNS = 500, 0.05, 10


def _known(arg: Container, node: Node) -> bool | None:
    if arg.null:
        return None
    if arg.base != "boolean":
        raise ProcessingError(
            gettext("{name} takes what is true or false").format(name=node.name), node.line
        )
    return bool(arg.values[0])


def _not(run: Run, node: Node, args: Sequence[Container]) -> Container:
    known = _known(args[0], node)
    return truth(None if known is None else not known)


def _and(run: Run, node: Node, args: Sequence[Container]) -> Container:
    known = [_known(arg, node) for arg in args]
    return truth(False if False in known else None if None in known else True)


def _or(run: Run, node: Node, args: Sequence[Container]) -> Container:
    known = [_known(arg, node) for arg in args]
    return truth(True if True in known else None if None in known else False)


def _any_n(run: Run, node: Node, args: Sequence[Container]) -> Container:
    def bound(name: str) -> int:
        said = node.get(name)
        if not said.isdigit():
            held = run.named(said, node).copy_of(run.values)
            said = str(held.values[0]) if held.values else ""
        if not said.isdigit():
            raise ProcessingError(gettext("any-n needs a least and a most"), node.line)
        return int(said)

    known = [_known(arg, node) for arg in args]
    met, open_ = known.count(True), known.count(None)
    least, most = bound("min"), bound("max")
    if met > most or met + open_ < least:
        return truth(False)
    return truth(True if least <= met and met + open_ <= most else None)


def same(one: Container, other: Container) -> bool:
    """Return whether two containers hold the same: in order where that matters."""
    if one.cardinality == "record" or other.cardinality == "record":
        return one.fields == other.fields
    if "multiple" in {one.cardinality, other.cardinality}:
        return Counter(one.values) == Counter(other.values)
    return one.values == other.values


_WORDS = frozenset({"identifier", "string", "uri", "intOrIdentifier"})


def _alike(one: Container, other: Container) -> bool:
    bases = {one.base, other.base}
    return len(bases) == 1 or bases <= NUMERIC or bases <= _WORDS


def _match(run: Run, node: Node, args: Sequence[Container]) -> Container:
    one, other = args
    if one.null or other.null:
        return truth(None)
    if not _alike(one, other):
        raise ProcessingError(
            gettext("{name} compares {base} with {other}").format(
                name=node.name, base=one.base, other=other.base
            ),
            node.line,
        )
    return truth(same(one, other))


def flag(node: Node, name: str, default: bool) -> bool:
    """Return an attribute that is true or false."""
    said = node.get(name).lower()
    return {"true": True, "1": True, "false": False, "0": False}.get(said, default)


def _text(arg: Container) -> str:
    return str(arg.values[0])


def _string_match(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if any(arg.null for arg in args):
        return truth(None)
    one, other = _text(args[0]), _text(args[1])
    if not flag(node, "case-sensitive", True):
        one, other = one.casefold(), other.casefold()
    return truth(other in one if flag(node, "substring", False) else one == other)


def _substring(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if any(arg.null for arg in args):
        return truth(None)
    one, other = _text(args[0]), _text(args[1])
    if not flag(node, "case-sensitive", True):
        one, other = one.casefold(), other.casefold()
    return truth(one in other)


def _pattern_match(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if args[0].null:
        return truth(None)
    said = node.get("pattern")
    if said in run.declared:
        held = run.named(said, node).copy_of(run.values)
        said = str(held.values[0]) if held.values else said
    run.patterns += 1
    if len(said) > LONGEST_PATTERN or run.patterns > MOST_PATTERNS:
        raise ProcessingError(gettext("a pattern is too long, or there are too many"), node.line)
    try:
        found = regex.fullmatch(said, _text(args[0]), timeout=SECONDS)
    except regex.error as error:
        raise ProcessingError(
            gettext("a pattern can’t be read: {error}").format(error=error), node.line
        ) from None
    except TimeoutError:
        raise ProcessingError(gettext("a pattern takes too long"), node.line) from None
    return truth(found is not None)


def _tolerance(run: Run, node: Node) -> tuple[float, float]:
    found = []
    for said in node.get("tolerance").split():
        if said in run.declared:
            held = run.named(said, node).copy_of(run.values)
            found.append(float(cast(float, held.values[0])) if held.values else math.nan)
            continue
        try:
            found.append(float(said))
        except ValueError:
            raise ProcessingError(
                gettext("“{said}” is no tolerance").format(said=said[:20]), node.line
            ) from None
    if not found:
        raise ProcessingError(gettext("equal needs its tolerance"), node.line)
    return found[0], found[-1] if len(found) > 1 else found[0]


def _equal(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    if found is None or len(found) != 2:
        return truth(None)
    right, given = found
    mode = node.get("tolerance-mode", "exact")
    if mode == "exact":
        return truth(right == given)
    below, above = _tolerance(run, node)
    if mode == "relative":
        ends = (right * (1 - below / 100), right * (1 + above / 100))
        low, high = min(ends), max(ends)
    else:
        low, high = right - below, right + above
    noise = 1e-12 * max(1.0, abs(right))
    over = given > low + noise or (flag(node, "include-lower-bound", True) and given >= low - noise)
    under = given < high - noise or (
        flag(node, "include-upper-bound", True) and given <= high + noise
    )
    return truth(over and under)


def _equal_rounded(run: Run, node: Node, args: Sequence[Container]) -> Container:
    found = numbers(node, args)
    if found is None or len(found) != 2:
        return truth(None)
    mode = node.get("rounding-mode", "significantFigures")
    figures = figures_of(run, node)
    one, other = (rounded(number, mode, figures, node) for number in found)
    return truth(one == other)


def _inside(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if args[0].null:
        return truth(None)
    if args[0].base != "point":
        raise ProcessingError(gettext("only points lie inside something"), node.line)
    shape = node.get("shape")
    numbers_ = read_coords(shape, node.get("coords"), node.line)
    points = cast(tuple[tuple[float, float], ...], args[0].values)
    return truth(any(is_inside(shape, numbers_, point) for point in points))


def _compared(by: Callable[[float, float], bool]) -> Callable[..., Container]:
    def does(run: Run, node: Node, args: Sequence[Container]) -> Container:
        found = numbers(node, args)
        return truth(None if found is None or len(found) != 2 else by(found[0], found[1]))

    return does


def _is_null(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return truth(args[0].null)


OPERATORS: dict[str, Of] = {
    "qti-not": Of(_not, 1, 1),
    "qti-and": Of(_and, 1, None),
    "qti-or": Of(_or, 1, None),
    "qti-any-n": Of(_any_n, 1, None),
    "qti-match": Of(_match, 2, 2),
    "qti-string-match": Of(_string_match, 2, 2),
    "qti-substring": Of(_substring, 2, 2),
    "qti-pattern-match": Of(_pattern_match, 1, 1),
    "qti-equal": Of(_equal, 2, 2),
    "qti-equal-rounded": Of(_equal_rounded, 2, 2),
    "qti-inside": Of(_inside, 1, 1),
    "qti-lt": Of(_compared(lambda x, y: x < y), 2, 2),
    "qti-gt": Of(_compared(lambda x, y: x > y), 2, 2),
    "qti-lte": Of(_compared(lambda x, y: x <= y), 2, 2),
    "qti-gte": Of(_compared(lambda x, y: x >= y), 2, 2),
    "qti-duration-lt": Of(_compared(lambda x, y: x < y), 2, 2),
    "qti-duration-gte": Of(_compared(lambda x, y: x >= y), 2, 2),
    "qti-is-null": Of(_is_null, 1, 1),
}
