"""Answers that are marked together, with the rules that mark them, as QTI had them."""

from __future__ import annotations

from collections.abc import Mapping

from ...items.kinds.associate import AssociateKey
from ...items.kinds.by_rules_key import ByRulesKey, read_answers
from ...items.kinds.choice import ChoiceKey
from ...items.kinds.given import Naming, given_variables
from ...items.kinds.order import OrderKey
from ...items.kinds.protocol import Key
from ...items.kinds.slots import SlotsKey
from ...items.processing.nodes import Node, q
from ...items.processing.values import Container, written
from . import rules_out as r
from .parts_out import Names, PartWritten, labelled, part_written
from .prose_out import blocks

CHOSEN = frozenset(
    {
        "qti-simple-choice",
        "qti-hottext",
        "qti-hotspot-choice",
        "qti-simple-associable-choice",
        "qti-gap-text",
        "qti-gap",
        "qti-associable-hotspot",
        "qti-inline-choice",
    }
)


@part_written.register
def _(key: ByRulesKey, names: Names) -> PartWritten:
    inner = {
        one.id: part_written(one, Names(key.naming[one.id].variables[0].name, f"{one.id}_SCORE"))
        for one in key.keys
    }
    body: list[Node | str] = []
    for one in key.keys:
        naming = key.naming[one.id]
        body += [
            part if isinstance(part, str) else _renamed(part, _identifiers(one, naming), naming)
            for part in inner[one.id].body
        ]
    rules = [*key.rules]
    if names.score != key.score:
        rules.append(r.sets(names.score, r.given(key.score)))

    def values(response: str) -> Mapping[str, Container]:
        given = {key.keys[0].id: response} if len(key.keys) == 1 else read_answers(response)
        found: dict[str, Container] = {}
        for one in key.keys:
            if given.get(one.id, "").strip():
                variables = given_variables(one, key.naming[one.id], given[one.id])
                for name, held in variables.items():
                    found[name] = found[name].with_more(held) if name in found else held
        return found

    right = values(key.examples.right)
    declared = [
        _declared(one.node, key.values, right) for one in key.declared.values() if one.node.name
    ]
    if names.score not in key.declared:
        declared.append(r.outcome(names.score, "float", "0"))
    return PartWritten(
        labelled(key.label, *body),
        declared,
        rules,
        max(1, round(key.full)),
        values,
        files=[file for one in inner.values() for file in one.files],
        modal=[_modal(name, text) for name, text in key.says.items()],
        lost=list(dict.fromkeys(what for one in inner.values() for what in one.lost)),
    )


def _identifiers(key: Key, naming: Naming) -> dict[str, str]:
    """Identifiers of the rules by those that are written elsewhere."""
    found: dict[str, str] = {}
    match key:
        case ChoiceKey():
            texts = {one.id: one.text for one in key.choices}
        case OrderKey() | AssociateKey():
            texts = {one.id: one.text for one in key.items}
        case SlotsKey():
            texts = {one.id: one.text for one in key.tokens}
            found |= {slot.id: place for slot, place in zip(key.slots, naming.places, strict=False)}
        case _:
            return {}
    return found | {id_: naming.ids[text] for id_, text in texts.items() if text in naming.ids}


def _renamed(node: Node, ids: Mapping[str, str], naming: Naming, place: int = 0) -> Node:
    """An interaction with the identifiers that the rules know."""
    said = dict(node.attributes)
    if node.name in CHOSEN and said.get("identifier") in ids:
        said["identifier"] = ids[said["identifier"]]
    response = said.get("response-identifier", "")
    first = naming.variables[0].name
    if len(naming.variables) > 1 and response.startswith(f"{first}_s"):
        place = int(response.removeprefix(f"{first}_s"))
        said["response-identifier"] = naming.variables[place].name
    if naming.each and node.name == "qti-inline-choice":
        text = node.text.strip()
        said["identifier"] = naming.each[place].get(text, said["identifier"])
    elif naming.each and len(naming.variables) == 1 and response == f"{first}_s0":
        said["response-identifier"] = first
    within = tuple(
        one if isinstance(one, str) else _renamed(one, ids, naming, place) for one in node.within
    )
    return Node(node.name, node.space, said, node.line, within)


def _declared(node: Node, values: Mapping[str, Container], right: Mapping[str, Container]) -> Node:
    """A declaration: of a template variable with the value of this version, of a response with its
    right answer."""
    name, first = node.get("identifier"), "qti-default-value"
    held = values.get(name)
    if held is None and node.one("qti-correct-response") is None:
        held, first = right.get(name), "qti-correct-response"
    if held is None or held.null:
        return node
    said = [q("value", text) for text in written(held.values)]
    rest = [one for one in node.children if one.name != first]
    new = q(first.removeprefix("qti-"), *said)
    return Node(node.name, node.space, node.attributes, node.line, (new, *rest))


def _modal(name: str, text: str) -> Node:
    outcome, _, identifier = name.partition(" ")
    return q(
        "modal-feedback",
        q("content-body", *blocks(text)),
        outcome_identifier=outcome,
        identifier=identifier,
        show_hide="show",
    )
