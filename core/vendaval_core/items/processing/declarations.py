"""What an item declares: its variables with their right answers, mappings and tables."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from vendaval_core.language import gettext

from .nodes import Node
from .shapes import is_inside, read_coords
from .values import (
    BaseType,
    Cardinality,
    Container,
    ProcessingError,
    Single,
    container,
    read_base,
    read_cardinality,
    read_single,
)

BUILT_IN: Mapping[str, tuple[BaseType, Single]] = {
    "numAttempts": ("integer", 1),
    "duration": ("duration", 0.0),
    "completionStatus": ("identifier", "completed"),
}
KINDS = {
    "qti-response-declaration": "response",
    "qti-outcome-declaration": "outcome",
    "qti-template-declaration": "template",
    "qti-context-declaration": "context",
}


@dataclass(frozen=True, slots=True)
class Mapped:
    """Points for values. any_case: of entries whose case does not matter."""

    points: dict[Single, float]
    any_case: dict[str, float]
    default: float = 0.0
    least: float | None = None
    most: float | None = None

    def of(self, value: Single) -> float:
        """What a value is worth."""
        if value in self.points:
            return self.points[value]
        if isinstance(value, str):
            return self.any_case.get(value.casefold(), self.default)
        return self.default

    def bounded(self, total: float) -> float:
        """A total between the bounds."""
        if self.least is not None:
            total = max(total, self.least)
        return total if self.most is None else min(total, self.most)

    @property
    def full(self) -> float:
        """The most that can be reached by giving each value once."""
        every = [*self.points.values(), *self.any_case.values()]
        return self.bounded(sum(worth for worth in every if worth > 0))


@dataclass(frozen=True, slots=True)
class Areas:
    """Points for places: shape, its numbers, and what a point in it is worth."""

    areas: tuple[tuple[str, tuple[float, ...], float], ...]
    bounds: Mapped

    def of(self, points: tuple[Single, ...]) -> float:
        """What points are worth: each area counts once, each point outside all the default."""
        total, met = 0.0, set[int]()
        for point in points:
            found = [
                place
                for place, (shape, numbers, _) in enumerate(self.areas)
                if isinstance(point, tuple) and is_inside(shape, numbers, point)  # type: ignore[arg-type]
            ]
            if not found:
                total += self.bounds.default
            elif found[0] not in met:
                met.add(found[0])
                total += self.areas[found[0]][2]
        return self.bounds.bounded(total)


@dataclass(frozen=True, slots=True)
class Table:
    """What a number is looked up in. exact: whether it must be met, else the first from above."""

    rows: tuple[tuple[float, bool, Single], ...]
    default: Single | None
    exact: bool

    def of(self, number: float) -> Single | None:
        """The value for a number. Rows: the least number, whether it counts itself, the value."""
        for least, itself, value in self.rows:
            if number == least and (self.exact or itself):
                return value
            if not self.exact and number > least:
                return value
        return self.default


@dataclass(frozen=True, slots=True)
class Declaration:
    """A variable. kind: response, outcome, template or context."""

    identifier: str
    kind: str
    cardinality: Cardinality
    base: BaseType | None
    default: Container
    correct: Container
    mapping: Mapped | None = None
    areas: Areas | None = None
    table: Table | None = None
    least: float | None = None
    most: float | None = None
    external: bool = False
    node: Node = field(default_factory=lambda: Node("", "qti", {}))


def read_declarations(item: Node) -> dict[str, Declaration]:
    """Return what an item declares, by identifier. ProcessingError for what can't be."""
    found: dict[str, Declaration] = {}
    for node in item.children:
        if node.name in KINDS:
            one = read_declaration(node)
            if one.identifier in found:
                raise ProcessingError(
                    gettext("“{name}” is declared twice").format(name=one.identifier), node.line
                )
            found[one.identifier] = one
    for name, (base, value) in BUILT_IN.items():
        found.setdefault(name, _built_in(name, base, value))
    return found


def _built_in(name: str, base: BaseType, value: Single) -> Declaration:
    held = container("single", base, [value])
    kind = "outcome" if name == "completionStatus" else "response"
    return Declaration(name, kind, "single", base, held, container("single", base, []))


def read_declaration(node: Node) -> Declaration:
    """Return one variable."""
    identifier = node.get("identifier")
    if not identifier:
        raise ProcessingError(gettext("a variable has no identifier"), node.line)
    cardinality = read_cardinality(node.get("cardinality", "single"), node.line)
    base = read_base(node.get("base-type"), node.line) if node.get("base-type") else None
    if base is None and cardinality != "record":
        raise ProcessingError(
            gettext("“{name}” has no base type").format(name=identifier), node.line
        )

    def held(name: str) -> Container:
        within = node.one(name)
        values = [] if within is None else within.all("qti-value")
        if cardinality == "record":
            fields = {
                one.get("field-identifier"): container(
                    "single",
                    kind := read_base(one.get("base-type", "string"), one.line),
                    [read_single(kind, one.text, one.line)],
                )
                for one in values
            }
            return Container("record", None, (), fields)
        kind = base or "string"
        return container(
            cardinality, base, [read_single(kind, one.text, one.line) for one in values]
        )

    return Declaration(
        identifier,
        KINDS[node.name],
        cardinality,
        base,
        held("qti-default-value"),
        held("qti-correct-response"),
        _mapping(node.one("qti-mapping"), base or "string"),
        _areas(node.one("qti-area-mapping")),
        _table(node, base or "string"),
        _number(node, "normal-minimum"),
        _number(node, "normal-maximum"),
        node.get("external-scored") not in {"", "none"},
        node,
    )


def _number(node: Node, name: str) -> float | None:
    said = node.get(name)
    return float(read_single("float", said, node.line)) if said else None  # type: ignore[arg-type]


def _mapping(node: Node | None, base: BaseType) -> Mapped | None:
    if node is None:
        return None
    points: dict[Single, float] = {}
    any_case: dict[str, float] = {}
    for entry in node.all("qti-map-entry"):
        key = read_single(base, entry.get("map-key"), entry.line)
        worth = _number(entry, "mapped-value")
        if worth is None:
            raise ProcessingError(gettext("a map entry has no value"), entry.line)
        points[key] = worth
        any_case_too = entry.get("case-sensitive", "true") in {"false", "0"}
        if any_case_too and isinstance(key, str) and base == "string":
            any_case[key.casefold()] = worth
    return _bounded(node, points, any_case)


def _bounded(node: Node, points: dict[Single, float], any_case: dict[str, float]) -> Mapped:
    default = _number(node, "default-value") or 0.0
    return Mapped(
        points, any_case, default, _number(node, "lower-bound"), _number(node, "upper-bound")
    )


def _areas(node: Node | None) -> Areas | None:
    if node is None:
        return None
    areas = []
    for entry in node.all("qti-area-map-entry"):
        shape = entry.get("shape")
        numbers = read_coords(shape, entry.get("coords"), entry.line)
        areas.append((shape, numbers, _number(entry, "mapped-value") or 0.0))
    return Areas(tuple(areas), _bounded(node, {}, {}))


def _table(node: Node, base: BaseType) -> Table | None:
    exact = node.one("qti-match-table")
    stepped = node.one("qti-interpolation-table")
    of = exact or stepped
    if of is None:
        return None
    rows = []
    for entry in of.all("qti-match-table-entry", "qti-interpolation-table-entry"):
        least = _number(entry, "source-value")
        if least is None:
            raise ProcessingError(gettext("a table’s row has no source value"), entry.line)
        itself = entry.get("include-boundary", "true") in {"true", "1"}
        rows.append((least, itself, read_single(base, entry.get("target-value"), entry.line)))
    said = of.get("default-value")
    default = read_single(base, said, of.line) if said else None
    return Table(tuple(rows), default, exact is not None)
