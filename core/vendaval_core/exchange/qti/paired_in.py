"""QTI's interactions in which things are joined, matched and put into gaps, as our parts."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from vendaval_core.language import gettext

from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from .asked import (
    Asked,
    NotTaken,
    Plain,
    Reading,
    labelled_prompt,
    most,
    naming,
    part_id,
    said,
    texts_differ,
)
from .chosen_in import (
    MOST_CHOICES,
    MOST_PAIRS,
    MOST_SLOTS,
    MOST_TOKENS,
    figure,
    hotspots,
    numbered,
    texts_of,
    whole,
)
from .prose_in import escaped


def associate(reading: Reading, node: Node) -> Asked:
    """Items joined two by two, also those that are places on a picture."""
    declared = reading.variable(node)
    if node.name == "qti-graphic-associate-interaction":
        texts = numbered(reading, node, "qti-associable-hotspot")
    else:
        texts = texts_of(reading, node.all("qti-simple-associable-choice"))
    texts_differ(list(texts.values()), node)
    pairs = [said(one).split() for one in reading.right(declared, node)]
    ends = Counter(end for pair in pairs for end in pair)
    if not set(ends) <= set(texts) or max(ends.values()) > 1:
        raise NotTaken(gettext("an item is joined to several others"), node.line)
    if not 2 <= len(pairs) <= MOST_PAIRS or len(texts) > MOST_TOKENS:
        says = gettext("it has {count} pairs; 2 to {most} are taken")
        raise NotTaken(says.format(count=len(pairs), most=MOST_PAIRS), node.line)
    part: dict[str, Plain] = {
        "kind": "associate",
        "id": part_id(declared.identifier),
        "pairs": [[texts[one], texts[other]] for one, other in pairs],
    }
    if spare := [text for id_, text in texts.items() if id_ not in ends]:
        part["spare"] = spare
    if declared.mapping is None:
        part["partial"] = False
    ids = {text: id_ for id_, text in texts.items()}
    return Asked(part, naming(declared.identifier, ids=ids), labelled_prompt(reading, node))


def match(reading: Reading, node: Node) -> list[Asked]:
    """Two sets to match: pairs, or a list of choices for each on the left where one may have
    several partners."""
    declared = reading.variable(node)
    sets = node.all("qti-simple-match-set")
    if len(sets) != 2:
        raise NotTaken(gettext("it has no two sets to match"), node.line)
    left = texts_of(reading, sets[0].all("qti-simple-associable-choice"))
    right = texts_of(reading, sets[1].all("qti-simple-associable-choice"))
    pairs = [said(one).split() for one in reading.right(declared, node)]
    if any(len(p) != 2 or p[0] not in left or p[1] not in right for p in pairs):
        raise NotTaken(gettext("a right pair is not among the choices"), node.line)
    prompt = labelled_prompt(reading, node)
    for slots, tokens, turned in ((left, right, False), (right, left, True)):
        partners = {pair[turned]: pair[not turned] for pair in pairs}
        if len(partners) == len(pairs) == len(slots) and len(slots) > 1:
            most(len(slots), MOST_SLOTS, gettext("pairs"), node)
            most(len(tokens), MOST_TOKENS, gettext("choices"), node)
            texts_differ(list(slots.values()), node)
            texts_differ(list(tokens.values()), node)
            used = set(partners.values())
            part: dict[str, Plain] = {
                "kind": "match",
                "id": part_id(declared.identifier),
                "pairs": [[text, tokens[partners[id_]]] for id_, text in slots.items()],
            }
            if spare := [text for id_, text in tokens.items() if id_ not in used]:
                part["spare"] = spare
            nodes = {n.get("identifier"): n for n in node.walk()}
            if any(whole(nodes[id_], "match-max", 1) != 1 for id_ in tokens):
                part["reuse"] = True
            if declared.mapping is None:
                part["partial"] = False
            ids = {text: id_ for id_, text in tokens.items()}
            told = naming(declared.identifier, ids=ids, places=list(slots), turned=turned)
            return [Asked(part, told, prompt)]
    return _rows(declared, node, left, right, pairs, prompt)


def _rows(
    declared: Declaration,
    node: Node,
    left: Mapping[str, str],
    right: Mapping[str, str],
    pairs: Sequence[Sequence[str]],
    prompt: str,
) -> list[Asked]:
    """A list of choices for each on the left."""
    most(len(left), MOST_SLOTS, gettext("rows"), node)
    most(len(right), MOST_CHOICES, gettext("choices"), node)
    texts_differ(list(left.values()), node)
    texts_differ(list(right.values()), node)
    found = []
    for number, (id_, text) in enumerate(left.items(), start=1):
        partners = {pair[1] for pair in pairs if pair[0] == id_}
        if not partners:
            raise NotTaken(gettext("“{text}” has no partner").format(text=text), node.line)
        part = {
            "kind": "choice",
            "id": f"{part_id(declared.identifier)[:26]}_{number}",
            "label": text,
            "choose": "any",
            "shuffle": False,
            "choices": [
                {"text": said_, **({"right": True} if other in partners else {})}
                for other, said_ in right.items()
            ],
        }
        ids = {said_: other for other, said_ in right.items()}
        told = naming(declared.identifier, ids=ids, places=[id_])
        found.append(Asked(part, told, prompt if number == 1 else "", exact=False))
    return found


def gap_match(reading: Reading, node: Node) -> Asked:
    """Words into the gaps of a text, or onto places of a picture."""
    declared = reading.variable(node)
    graphic = node.name == "qti-graphic-gap-match-interaction"
    choices = node.all("qti-gap-text", "qti-gap-img")
    tokens = texts_of(reading, choices)
    for choice_ in choices:
        if choice_.name == "qti-gap-img" and choice_.get("object-label"):
            tokens[choice_.get("identifier")] = escaped(choice_.get("object-label"))
    texts_differ(list(tokens.values()), node)
    most(len(tokens), MOST_TOKENS, gettext("words"), node)
    partners: dict[str, str] = {}
    for one in reading.right(declared, node):
        token, gap = said(one).split()
        if gap in tokens and token not in tokens:
            token, gap = gap, token
        partners[gap] = token
    prompt = labelled_prompt(reading, node)
    part: dict[str, Plain]
    if graphic:
        on = reading.on_picture(node)
        places = hotspots(reading, node.all("qti-associable-hotspot"), on)
        gaps = [id_ for id_ in places if id_ in partners]
        _gaps_right(gaps, list(places), partners, tokens, node)
        if len(gaps) < 2:
            raise NotTaken(gettext("there is only one place to fill"), node.line)
        part = {
            "kind": "graphic_gap_match",
            "id": part_id(declared.identifier),
            "figure": figure(on),
            "gaps": [
                {"at": places[id_][1], "name": places[id_][0], "token": tokens[partners[id_]]}
                for id_ in gaps
            ],
        }
    else:
        marks = [one for one in node.walk() if one.name == "qti-gap"]
        gaps = [one.get("identifier") for one in marks]
        _gaps_right(gaps, gaps, partners, tokens, node)
        known = {id(one): f"{{{{{place}}}}}" for place, one in enumerate(marks)}
        rest = [
            one
            for one in node.within
            if isinstance(one, str) or one.name not in {"qti-prompt", "qti-gap-text", "qti-gap-img"}
        ]
        part = {
            "kind": "gap_match",
            "id": part_id(declared.identifier),
            "text": reading.blocks(rest, known),
            "gaps": [tokens[partners[id_]] for id_ in gaps],
        }
    used = {partners[id_] for id_ in gaps}
    if spare := [text for id_, text in tokens.items() if id_ not in used]:
        part["spare"] = spare
    if declared.mapping is None:
        part["partial"] = False
    ids = {text: id_ for id_, text in tokens.items()}
    told = naming(declared.identifier, ids=ids, places=gaps, turned=True)
    return Asked(part, told, prompt)


def _gaps_right(
    gaps: Sequence[str],
    every: Sequence[str],
    partners: Mapping[str, str],
    tokens: Mapping[str, str],
    node: Node,
) -> None:
    most(len(gaps), MOST_SLOTS, gettext("gaps"), node)
    if not gaps or any(partners.get(id_) not in tokens for id_ in every):
        raise NotTaken(gettext("not every gap has its right word"), node.line)
