"""What is said to foreseen wrong answers: each value that the rules name is given once, and what
the file would show to it alone becomes the part's own feedback."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import cast

from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ...items.processing.shapes import read_coords
from ...items.processing.values import Container, ProcessingError, read_single
from .asked import Asked, Plain, said
from .typed_in import plain, target

MOST_MISSES, MOST_LETTERS = 20, 4_000
Told = Callable[[str, Container], list[str]]
"""What is shown when a response, by its name, holds this and the others are right."""


def give_says(
    part: Plain,
    asked: Asked,
    declared: Mapping[str, Declaration],
    rules: Sequence[Node],
    right: Mapping[str, Container],
    told: Told,
) -> None:
    """Give a part what is said to its wrong answers. right: the right answers."""
    known = [declared[name] for name in asked.variables]
    match part["kind"]:
        case "choice" | "hot_text" | "hotspot":
            ids = asked.naming.get("ids", {})
            for choice in part["choices"]:
                if choice.get("right"):
                    continue
                value = Container(known[0].cardinality, known[0].base, (ids[choice["text"]],))
                if own := told(known[0].identifier, value):
                    choice["says"] = _joined(own)
            return
        case "text_entry" | "slider":
            misses = list(_typed(part, known[0], rules, told))
        case "match" | "gap_match" | "graphic_gap_match":
            misses = list(_mixed(part, asked, known[0], rules, right, told))
        case "inline_choice":
            misses = list(_listed(asked, known, rules, told))
        case "associate":
            misses = list(_joined_wrongly(asked, known[0], rules, right, told))
        case "select_point" | "position_object":
            misses = list(_misplaced(asked, known[0], rules, told))
        case _:
            return
    if misses:
        part["near_misses"] = misses[:MOST_MISSES]


def _joined(texts: Sequence[str]) -> str:
    return " ".join(texts)[:MOST_LETTERS]


def constants(rules: Sequence[Node], name: str) -> list[str]:
    """Values that the rules name beside a variable: what an author foresees is among them."""
    found = [
        one.text.strip()
        for rule in rules
        for node in rule.walk()
        if any(o.name == "qti-variable" and o.get("identifier") == name for o in node.walk())
        for one in node.children
        if one.name == "qti-base-value"
    ]
    return list(dict.fromkeys(found))[:40]


def _values(declared: Declaration, rules: Sequence[Node]) -> Iterator[Container]:
    """Those of its type."""
    base = declared.base or "string"
    for text in constants(rules, declared.identifier):
        try:
            value = read_single(base, text)
        except ProcessingError:
            continue
        yield Container(declared.cardinality, base, (value,))


def _typed(
    part: Plain, declared: Declaration, rules: Sequence[Node], told: Told
) -> Iterator[Plain]:
    for held in _values(declared, rules):
        if own := told(declared.identifier, held):
            number = part.get("value", "number") == "number"
            answer: Plain = plain(float(held.number())) if number else said(held.values[0])
            yield {"answer": answer, "says": _joined(own)}


def _mixed(
    part: Plain,
    asked: Asked,
    declared: Declaration,
    rules: Sequence[Node],
    right: Mapping[str, Container],
    told: Told,
) -> Iterator[Plain]:
    """Pairs: one of them put in the place of the right one."""
    turned = bool(asked.naming.get("turned"))
    places: list[str] = asked.naming.get("places", [])
    texts = {id_: text for text, id_ in asked.naming.get("ids", {}).items()}
    for held in _values(declared, rules):
        pair = cast(tuple[str, str], held.values[0])
        place, token = reversed(pair) if turned else pair
        if place not in places or token not in texts:
            continue
        side = 1 if turned else 0
        kept = [
            one
            for one in cast(Sequence[tuple[str, str]], right[declared.identifier].values)
            if one[side] != place
        ]
        given = Container(declared.cardinality, declared.base, (*kept, pair))
        if own := told(declared.identifier, given):
            number = places.index(place)
            name: Plain = number
            if part["kind"] == "match":
                name = part["pairs"][number][0]
            elif part["kind"] == "graphic_gap_match":
                name = part["gaps"][number]["name"]
            yield {"place": name, "token": texts[token], "says": _joined(own)}


def _listed(
    asked: Asked, known: Sequence[Declaration], rules: Sequence[Node], told: Told
) -> Iterator[Plain]:
    for place, (one, ids) in enumerate(zip(known, asked.naming["each"], strict=True)):
        texts = {id_: text for text, id_ in ids.items()}
        for held in _values(one, rules):
            token = texts.get(said(held.values[0]))
            if token is not None and (own := told(one.identifier, held)):
                yield {"place": place, "token": token, "says": _joined(own)}


def _joined_wrongly(
    asked: Asked,
    declared: Declaration,
    rules: Sequence[Node],
    right: Mapping[str, Container],
    told: Told,
) -> Iterator[Plain]:
    texts = {id_: text for text, id_ in asked.naming.get("ids", {}).items()}
    for held in _values(declared, rules):
        pair = cast(tuple[str, str], held.values[0])
        if not set(pair) <= set(texts):
            continue
        kept = [
            one
            for one in cast(Sequence[tuple[str, str]], right[declared.identifier].values)
            if not set(one) & set(pair)
        ]
        given = Container(declared.cardinality, declared.base, (*kept, pair))
        if own := told(declared.identifier, given):
            yield {"pair": [texts[pair[0]], texts[pair[1]]], "says": _joined(own)}


def _misplaced(
    asked: Asked, declared: Declaration, rules: Sequence[Node], told: Told
) -> Iterator[Plain]:
    """Places that the rules look for: a point in the middle of each."""
    height = float(asked.naming.get("height", 0.0))
    for rule in rules:
        for node in rule.walk():
            inner = node.one("qti-variable") if node.name == "qti-inside" else None
            if inner is None or inner.get("identifier") != declared.identifier:
                continue
            shape = node.get("shape")
            place = target(shape, read_coords(shape, node.get("coords")), height)
            point = (float(place["x"]), height - float(place["y"]))
            given = Container(declared.cardinality, "point", (point,))
            if own := told(declared.identifier, given):
                yield {**place, "says": _joined(own)}
