"""What is chosen, ordered, matched and joined, as QTI."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Literal

from ...items.kinds.associate import AssociateKey
from ...items.kinds.choice import ChoiceKey
from ...items.kinds.gap_match import GapMatchKey
from ...items.kinds.graphic_gap_match import GraphicGapMatchKey
from ...items.kinds.grid_shading import ShadingKey
from ...items.kinds.inline_choice import InlineChoiceKey
from ...items.kinds.match import MatchKey
from ...items.kinds.odd_one_out import OddOneOutKey
from ...items.kinds.order import OrderKey
from ...items.kinds.slots import SlotsKey
from ...items.mark import lines
from ...items.processing.nodes import Node, q
from ...items.processing.values import BaseType, Cardinality, Container
from . import rules_out as r
from .figures_out import Drawn, coords, drawn, grid
from .parts_out import Names, PartWritten, labelled, part_written
from .prose_out import blocks, line

Values = Callable[[str], Mapping[str, Container]]


def held(name: str, cardinality: Cardinality, base: BaseType) -> Values:
    """How a response of one value a line is held: identifiers as they are."""

    def values(response: str) -> Mapping[str, Container]:
        return {name: Container(cardinality, base, tuple(lines(response)))}

    return values


def pairs(name: str, base: Literal["pair", "directedPair"], *, turned: bool = False) -> Values:
    """How a response of pairs is held. turned: whether QTI writes the second one first."""

    def values(response: str) -> Mapping[str, Container]:
        found = []
        for one in lines(response):
            left, _, right = one.partition(" ")
            pair = (right, left) if turned else (left, right)
            found.append(pair if base == "directedPair" else (min(pair), max(pair)))
        return {name: Container("multiple", base, tuple(found))}

    return values


def _right_or_nothing(names: Names) -> list[Node]:
    matched = q("match", r.given(names.response), r.right(names.response))
    return [
        r.when(
            matched,
            r.sets(names.score, r.number(1)),
            otherwise=[r.sets(names.score, r.number(0))],
        )
    ]


def _mapped(names: Names) -> list[Node]:
    return [r.sets(names.score, q("map-response", identifier=names.response))]


def _choices(key: ChoiceKey, names: Names) -> tuple[list[Node | str], list[Drawn]]:
    most: dict[str, str | int] = {
        "response_identifier": names.response,
        "max_choices": key.choose or 0,
    }
    if key.kind == "hot_text":
        marks = {
            str(place): q("hottext", *line(one.text), identifier=one.id)
            for place, one in enumerate(key.choices)
        }
        return [q("hottext-interaction", *blocks(key.text, marks), **most)], []
    if key.kind == "hotspot" and key.figure is not None:
        on = drawn(key.figure)
        places = []
        for one in key.choices:
            assert one.region is not None
            shape, at = coords(one.region, on)
            said = {"identifier": one.id, "shape": shape, "coords": at, "hotspot_label": one.text}
            places.append(q("hotspot-choice", **said))
        return [q("hotspot-interaction", on.image(), *places, **most)], [on]
    written = [q("simple-choice", *line(one.text), identifier=one.id) for one in key.choices]
    return [q("choice-interaction", *written, shuffle="true", **most)], []


@part_written.register
def _(key: ChoiceKey, names: Names) -> PartWritten:
    body, files = _choices(key, names)
    cardinality: Cardinality = "single" if key.choose == 1 else "multiple"
    of, entries = 1, list[Node]()
    if key.bounds is not None:
        of = key.bounds[1]
        points = [(one.id, float(one.points)) for one in key.choices if one.points]
        entries = [r.mapping(points, *map(float, key.bounds))]
    elif key.partial:
        of = len(key.right)
        points = [(one.id, 1.0 if one.right else -1.0) for one in key.choices]
        entries = [r.mapping(points, 0.0, float(of))]
    right = [one.id for one in key.right]
    declared = r.response(names.response, cardinality, "identifier", right, *entries)
    said = []
    for one in sorted(key.choices, key=lambda choice: choice.id):
        if one.says and not one.right:
            chosen = "match" if cardinality == "single" else "member"
            condition = q(chosen, r.word(one.id), r.given(names.response))
            said.append((condition, one.says))
    return PartWritten(
        labelled(key.label, *body),
        [declared],
        _mapped(names) if entries else _right_or_nothing(names),
        of,
        held(names.response, cardinality, "identifier"),
        "map_response" if entries else "match_correct",
        said,
        files,
    )


@part_written.register
def _(key: OrderKey, names: Names) -> PartWritten:
    items = [q("simple-choice", *line(one.text), identifier=one.id) for one in key.items]
    body = q("order-interaction", *items, response_identifier=names.response, shuffle="true")
    rules, of, standard = _right_or_nothing(names), 1, "match_correct"
    if key.partial:
        of, standard = len(key.right), ""
        rules = []
        for place, id_ in enumerate(key.right, start=1):
            there = q("index", r.given(names.response), n=place)
            rules.append(r.when(q("match", there, r.word(id_)), r.adds(names.score, r.number(1))))
    said = [(_before(names.response, key, one.place, one.token), one.says) for one in key.mix_ups]
    return PartWritten(
        labelled(key.label, body),
        [r.response(names.response, "ordered", "identifier", key.right)],
        rules,
        of,
        held(names.response, "ordered", "identifier"),
        standard,
        said,
    )


def _before(name: str, key: OrderKey, one: str, other: str) -> Node:
    """Whether one item stands before another one: at a place, with the other behind it."""
    count = len(key.right)
    cases = []
    for first in range(1, count):
        behind = [
            q("match", q("index", r.given(name), n=place), r.word(other))
            for place in range(first + 1, count + 1)
        ]
        here = q("match", q("index", r.given(name), n=first), r.word(one))
        cases.append(q("and", here, behind[0] if len(behind) == 1 else q("or", *behind)))
    return cases[0] if len(cases) == 1 else q("or", *cases)


def _tokens(key: SlotsKey, name: str, *, many: int = 0) -> list[Node]:
    most = 0 if key.reuse else 1
    return [
        q(name, *line(token.text), identifier=token.id, match_max=many or most)
        for token in key.tokens
    ]


def _slots(
    key: SlotsKey, names: Names, body: Node, files: Sequence[Drawn] = (), *, turned: bool = False
) -> PartWritten:
    def pair(slot: str, token: str) -> str:
        return f"{token} {slot}" if turned else f"{slot} {token}"

    right = [pair(slot.id, slot.right) for slot in key.slots]
    every = float(len(right))
    entries = [r.mapping([(one, 1.0) for one in right], 0.0, every)] if key.of.partial else []
    said = [
        (
            q(
                "member",
                r.word(pair(one.place, one.token), "directedPair"),
                r.given(names.response),
            ),
            one.says,
        )
        for one in key.of.mix_ups
    ]
    return PartWritten(
        labelled(key.label, body),
        [r.response(names.response, "multiple", "directedPair", right, *entries)],
        _mapped(names) if entries else _right_or_nothing(names),
        len(right) if entries else 1,
        pairs(names.response, "directedPair", turned=turned),
        "map_response" if entries else "match_correct",
        said,
        files,
    )


@part_written.register
def _(key: MatchKey, names: Names) -> PartWritten:
    left = [
        q("simple-associable-choice", *line(slot.text), identifier=slot.id, match_max=1)
        for slot in key.slots
    ]
    body = q(
        "match-interaction",
        q("simple-match-set", *left),
        q("simple-match-set", *_tokens(key, "simple-associable-choice")),
        response_identifier=names.response,
        shuffle="false",
        max_associations=len(left),
    )
    return _slots(key, names, body)


@part_written.register
def _(key: GapMatchKey, names: Names) -> PartWritten:
    gaps = {str(place): q("gap", identifier=slot.id) for place, slot in enumerate(key.slots)}
    text = blocks(key.text, gaps)
    body = q(
        "gap-match-interaction",
        *_tokens(key, "gap-text"),
        *text,
        response_identifier=names.response,
        shuffle="false",
        max_associations=len(gaps),
    )
    return _slots(key, names, body, turned=True)


@part_written.register
def _(key: GraphicGapMatchKey, names: Names) -> PartWritten:
    assert key.figure is not None
    on = drawn(key.figure)
    places = []
    for slot in key.slots:
        assert slot.region is not None
        shape, at = coords(slot.region, on)
        said = {"identifier": slot.id, "shape": shape, "coords": at, "hotspot_label": slot.text}
        places.append(q("associable-hotspot", match_max=1, **said))
    body = q(
        "graphic-gap-match-interaction",
        on.image(),
        *_tokens(key, "gap-text"),
        *places,
        response_identifier=names.response,
        max_associations=len(places),
    )
    return _slots(key, names, body, [on], turned=True)


@part_written.register
def _(key: InlineChoiceKey, names: Names) -> PartWritten:
    texts = {token.id: token.text for token in key.tokens}
    lists: dict[str, Node] = {}
    declared, matched = [], []
    for place, slot in enumerate(key.slots):
        name = f"{names.response}_{slot.id}"
        offered = [
            q("inline-choice", *line(texts[one]), identifier=one)
            for one in slot.offers or tuple(texts)
        ]
        lists[str(place)] = q("inline-choice-interaction", *offered, response_identifier=name)
        declared.append(r.response(name, "single", "identifier", [slot.right]))
        matched.append(q("match", r.given(name), r.right(name)))
    every = len(declared)
    if key.of.partial:
        rules = [r.when(one, r.adds(names.score, r.number(1))) for one in matched]
    else:
        rules = [r.when(q("and", *matched), r.sets(names.score, r.number(1)))]

    def values(response: str) -> Mapping[str, Container]:
        found = {}
        for one in lines(response):
            slot, _, token = one.partition(" ")
            found[f"{names.response}_{slot}"] = Container("single", "identifier", (token,))
        return found

    said = [
        (q("match", r.word(one.token), r.given(f"{names.response}_{one.place}")), one.says)
        for one in key.of.mix_ups
    ]
    body = blocks(key.text, lists)
    of = every if key.of.partial else 1
    return PartWritten(labelled(key.label, *body), declared, rules, of, values, feedback=said)


@part_written.register
def _(key: AssociateKey, names: Names) -> PartWritten:
    right = [f"{one} {other}" for one, other in sorted(key.pairs)]
    every = float(len(right))
    entries = [r.mapping([(one, 1.0) for one in right], 0.0, every)] if key.partial else []
    items = [
        q("simple-associable-choice", *line(one.text), identifier=one.id, match_max=1)
        for one in key.items
    ]
    body = q(
        "associate-interaction",
        *items,
        response_identifier=names.response,
        shuffle="true",
        max_associations=len(right),
    )
    said = [
        (q("member", r.word(f"{one.place} {one.token}", "pair"), r.given(names.response)), one.says)
        for one in key.mix_ups
    ]
    return PartWritten(
        labelled(key.label, body),
        [r.response(names.response, "multiple", "pair", right, *entries)],
        _mapped(names) if entries else _right_or_nothing(names),
        len(right) if entries else 1,
        pairs(names.response, "pair"),
        "map_response" if entries else "match_correct",
        said,
    )


@part_written.register
def _(key: OddOneOutKey, names: Names) -> PartWritten:
    why = f"{names.response}_WHY"
    items = [q("simple-choice", *line(one.text), identifier=one.id) for one in key.items]
    reasons = [q("simple-choice", *line(one.text), identifier=one.id) for one in key.reasons]
    body = [
        q("choice-interaction", *items, response_identifier=names.response, max_choices=1),
        q("choice-interaction", *reasons, response_identifier=why, max_choices=1),
    ]
    odd = q("match", r.given(names.response), r.right(names.response))
    reason = q("match", r.given(why), r.right(why))
    add = r.adds(names.score, r.number(1))

    def values(response: str) -> Mapping[str, Container]:
        item, _, chosen = response.strip().partition(" ")
        return {
            names.response: Container("single", "identifier", (item,)),
            why: Container("single", "identifier", (chosen,)),
        }

    said = [
        (q("match", r.word(id_), r.given(names.response)), says)
        for id_, says in key.says_to_item.items()
    ] + [(q("match", r.word(id_), r.given(why)), says) for id_, says in key.says_to_reason.items()]
    return PartWritten(
        labelled(key.label, *body),
        [
            r.response(names.response, "single", "identifier", [key.odd]),
            r.response(why, "single", "identifier", [key.why]),
        ],
        [r.when(odd, add, r.when(reason, add))],
        2,
        values,
        feedback=said,
    )


@part_written.register
def _(key: ShadingKey, names: Names) -> PartWritten:
    cell = 40.0
    on = grid(key.rows, key.columns, cell)
    cells = []
    for row in range(key.rows):
        for column in range(key.columns):
            left, top = column * cell, row * cell
            at = f"{left:g},{top:g},{left + cell:g},{top + cell:g}"
            label = f"{row + 1}, {column + 1}"
            said = {"identifier": f"r{row}c{column}", "coords": at, "hotspot_label": label}
            cells.append(q("hotspot-choice", shape="rect", **said))
    body = q(
        "hotspot-interaction",
        on.image(),
        *cells,
        response_identifier=names.response,
        max_choices=0,
    )
    size = q("container-size", r.given(names.response))

    def counted(count: float) -> Node:
        return q("equal", size, r.number(count), tolerance_mode="exact")

    def values(response: str) -> Mapping[str, Container]:
        shaded = [one.split() for one in lines(response)]
        ids = tuple(f"r{one[0]}c{one[1]}" for one in shaded if len(one) == 2)
        return {names.response: Container("multiple", "identifier", ids)}

    every = [f"r{i // key.columns}c{i % key.columns}" for i in range(key.answer)]
    return PartWritten(
        labelled(key.label, body),
        [r.response(names.response, "multiple", "identifier", every)],
        [r.when(counted(key.answer), r.sets(names.score, r.number(1)))],
        1,
        values,
        feedback=[(counted(float(one.value)), one.says) for one in key.near_misses],
        files=[on],
    )
