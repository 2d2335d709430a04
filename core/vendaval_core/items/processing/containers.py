"""QTI 3's expressions that give, take and put together values."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import cast

from vendaval_core.language import gettext

from .nodes import Node
from .run import Of, Run
from .values import (
    NULL,
    BaseType,
    Cardinality,
    Container,
    ProcessingError,
    container,
    read_base,
    read_single,
    single,
    truth,
)

MOST_REPEATS = 1_000


def _base_value(run: Run, node: Node, args: Sequence[Container]) -> Container:
    base = read_base(node.get("base-type"), node.line)
    return single(base, read_single(base, node.text, node.line))


def _variable(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return run.value(node)


def _default(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return run.named(node.get("identifier"), node).declared.default


def _correct(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return run.right(node.get("identifier"), node)


def _null(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return NULL


def _map_response(run: Run, node: Node, args: Sequence[Container]) -> Container:
    name = run.named(node.get("identifier"), node)
    mapping = name.declared.mapping
    if mapping is None:
        raise ProcessingError(gettext("“{name}” has no mapping").format(name=name.name), node.line)
    held = name.copy_of(run.values)
    if held.null:
        return single("float", mapping.bounded(0.0))
    distinct = dict.fromkeys(held.values)
    return single("float", mapping.bounded(sum(mapping.of(value) for value in distinct)))


def _map_point(run: Run, node: Node, args: Sequence[Container]) -> Container:
    name = run.named(node.get("identifier"), node)
    if name.declared.areas is None:
        raise ProcessingError(gettext("“{name}” has no areas").format(name=name.name), node.line)
    return single("float", name.declared.areas.of(name.copy_of(run.values).values))


def _put_together(cardinality: Cardinality) -> Of:
    def does(run: Run, node: Node, args: Sequence[Container]) -> Container:
        held = [arg for arg in args if not arg.null]
        bases = {arg.base for arg in held}
        if bases == {"integer", "float"}:
            bases = {"float"}
        if len(bases) > 1:
            raise ProcessingError(gettext("{name} mixes types").format(name=node.name), node.line)
        base = next(iter(bases), None)
        return Container(cardinality, base, tuple(v for arg in held for v in arg.values))

    return Of(does, 0, None)


def _size(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return single("integer", 0 if args[0].null else len(args[0].values))


def _index(run: Run, node: Node, args: Sequence[Container]) -> Container:
    said = node.get("n")
    if not said.isdigit():
        held = run.named(said, node).copy_of(run.values)
        said = str(held.values[0]) if held.values else ""
    if not said.isdigit() or int(said) < 1:
        raise ProcessingError(gettext("an index is a number from 1"), node.line)
    if args[0].null or int(said) > len(args[0].values):
        return Container("single", args[0].base)
    return Container("single", args[0].base, (args[0].values[int(said) - 1],))


def _field(run: Run, node: Node, args: Sequence[Container]) -> Container:
    return args[0].fields.get(node.get("field-identifier"), NULL)


def _random(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if args[0].null:
        return Container("single", args[0].base)
    place = _stream(run, node).below(len(args[0].values))
    return Container("single", args[0].base, (args[0].values[place],))


def _stream(run: Run, node: Node):  # type: ignore[no-untyped-def]
    if run.stream is None:
        raise ProcessingError(gettext("chance is not taken here"), node.line)
    return run.stream


def _bound(run: Run, node: Node, name: str, base: BaseType, default: str) -> float:
    said = node.get(name, default) or default
    if said in run.declared:
        held = run.named(said, node).copy_of(run.values)
        if held.values:
            return cast(float, held.values[0])
    return cast(float, read_single(base, said, node.line))


def _random_integer(run: Run, node: Node, args: Sequence[Container]) -> Container:
    low = int(_bound(run, node, "min", "integer", "0"))
    high = int(_bound(run, node, "max", "integer", "0"))
    step = int(_bound(run, node, "step", "integer", "1"))
    if step < 1 or high < low or (high - low) // step >= 2**31:
        raise ProcessingError(gettext("a random number has no range"), node.line)
    return single("integer", low + step * _stream(run, node).below((high - low) // step + 1))


def _random_float(run: Run, node: Node, args: Sequence[Container]) -> Container:
    low = _bound(run, node, "min", "float", "0")
    high = _bound(run, node, "max", "float", "0")
    if high < low:
        raise ProcessingError(gettext("a random number has no range"), node.line)
    steps = 1_000_000
    return single("float", low + (high - low) * _stream(run, node).below(steps) / steps)


def _member(run: Run, node: Node, args: Sequence[Container]) -> Container:
    if any(arg.null for arg in args):
        return truth(None)
    return truth(args[0].values[0] in args[1].values)


def _delete(run: Run, node: Node, args: Sequence[Container]) -> Container:
    gone, held = args
    if gone.null or held.null:
        return Container(held.cardinality, held.base)
    return Container(
        held.cardinality, held.base, tuple(v for v in held.values if v != gone.values[0])
    )


def _contains(run: Run, node: Node, args: Sequence[Container]) -> Container:
    whole, part = args
    if whole.null or part.null:
        return truth(None)
    if "ordered" in {whole.cardinality, part.cardinality}:
        long, count = whole.values, len(part.values)
        starts = range(len(long) - count + 1)
        return truth(any(long[start : start + count] == part.values for start in starts))
    return truth(not Counter(part.values) - Counter(whole.values))


def _repeat(run: Run, node: Node, args: Sequence[Container]) -> Container:
    times = int(_bound(run, node, "number-repeats", "integer", "0"))
    held = [arg for arg in args if not arg.null]
    if times < 1 or not held:
        return Container("ordered", None)
    if times > MOST_REPEATS:
        raise ProcessingError(gettext("it repeats too often"), node.line)
    values = tuple(v for arg in held for v in arg.values)
    return container("ordered", held[0].base, values * times)


OPERATORS: dict[str, Of] = {
    "qti-base-value": Of(_base_value),
    "qti-variable": Of(_variable),
    "qti-default": Of(_default),
    "qti-correct": Of(_correct),
    "qti-null": Of(_null),
    "qti-map-response": Of(_map_response),
    "qti-map-response-point": Of(_map_point),
    "qti-multiple": _put_together("multiple"),
    "qti-ordered": _put_together("ordered"),
    "qti-container-size": Of(_size, 1, 1),
    "qti-index": Of(_index, 1, 1),
    "qti-field-value": Of(_field, 1, 1),
    "qti-random": Of(_random, 1, 1),
    "qti-random-integer": Of(_random_integer),
    "qti-random-float": Of(_random_float),
    "qti-member": Of(_member, 2, 2),
    "qti-delete": Of(_delete, 2, 2),
    "qti-contains": Of(_contains, 2, 2),
    "qti-repeat": Of(_repeat, 1, None),
}
