"""Rules of response processing, as they are written often."""

from __future__ import annotations

from collections.abc import Sequence

from ...items.processing.nodes import Node, q


def number(value: float) -> Node:
    """A number as an expression."""
    return q("base-value", f"{value:.12g}", base_type="float")


def word(value: str, base: str = "identifier") -> Node:
    """An identifier or a text as an expression."""
    return q("base-value", value, base_type=base)


def given(name: str) -> Node:
    """What a variable holds."""
    return q("variable", identifier=name)


def right(name: str) -> Node:
    """What a response should be."""
    return q("correct", identifier=name)


def sets(name: str, expression: Node) -> Node:
    """Give an outcome its value."""
    return q("set-outcome-value", expression, identifier=name)


def adds(name: str, expression: Node) -> Node:
    """Add to an outcome."""
    return sets(name, q("sum", given(name), expression))


def when(condition: Node, *then: Node, otherwise: Sequence[Node] = ()) -> Node:
    """If this, then that."""
    branches = [q("response-if", condition, *then)]
    if otherwise:
        branches.append(q("response-else", *otherwise))
    return q("response-condition", *branches)


def first_of(cases: Sequence[tuple[Node, Node]]) -> Node:
    """The rule of the first condition that holds."""
    (condition, then), *rest = cases
    others = [q("response-else-if", one, rule) for one, rule in rest]
    return q("response-condition", q("response-if", condition, then), *others)


def near(name: str | Node, value: float, reach: float) -> Node:
    """Whether a number is within a reach of a value."""
    held = given(name) if isinstance(name, str) else name
    mode = {"tolerance_mode": "absolute", "tolerance": f"{reach:.12g} {reach:.12g}"}
    return q("equal", number(value), held, **mode)


def response(name: str, cardinality: str, base: str, values: Sequence[str], *within: Node) -> Node:
    """A response's declaration with its right answer."""
    correct = q("correct-response", *(q("value", value) for value in values))
    return q(
        "response-declaration",
        *([correct] if values else []),
        *within,
        identifier=name,
        cardinality=cardinality,
        base_type=base,
    )


def outcome(name: str, base: str, default: str = "", **attributes: str | float) -> Node:
    """An outcome's declaration."""
    within = [q("default-value", q("value", default))] if default else []
    cardinality = str(attributes.pop("cardinality", "single"))
    return q(
        "outcome-declaration",
        *within,
        identifier=name,
        cardinality=cardinality,
        base_type=base,
        **attributes,
    )


def mapping(entries: Sequence[tuple[str, float]], least: float | None, most: float | None) -> Node:
    """Points for values, between bounds."""
    bounds: dict[str, str | int | float] = {"default_value": "0"}
    if least is not None:
        bounds = {"lower_bound": f"{least:g}", **bounds}
    if most is not None:
        bounds = {"upper_bound": f"{most:g}", **bounds}
    rows = [q("map-entry", map_key=key, mapped_value=f"{worth:g}") for key, worth in entries]
    return q("mapping", *rows, **bounds)
