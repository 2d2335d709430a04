"""An item's body as a prompt and parts: text, interactions, and text between them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field

from vendaval_core.language import gettext

from ...items.markdown import to_words
from ...items.processing.nodes import Node
from . import chosen_in, paired_in, typed_in
from .asked import Asked, NotTaken, Plain, Reading, for_learners, is_solution

MOST_PARTS, MOST_LABEL, MOST_MODEL = 6, 400, 4_000
BLANK = "…"
INLINE = frozenset({"qti-inline-choice-interaction", "qti-text-entry-interaction"})
STAGE = "qti-position-object-stage"
OPENED = frozenset({"div", "section", "article", "main", "body"})
HELP = "qti-end-attempt-interaction"
BLOCKS: dict[str, Callable[[Reading, Node], Asked]] = {
    "qti-choice-interaction": chosen_in.choice,
    "qti-hottext-interaction": chosen_in.hot_text,
    "qti-hotspot-interaction": chosen_in.hotspot,
    "qti-order-interaction": chosen_in.order,
    "qti-graphic-order-interaction": chosen_in.order,
    "qti-associate-interaction": paired_in.associate,
    "qti-graphic-associate-interaction": paired_in.associate,
    "qti-gap-match-interaction": paired_in.gap_match,
    "qti-graphic-gap-match-interaction": paired_in.gap_match,
    "qti-slider-interaction": typed_in.slider,
    "qti-extended-text-interaction": typed_in.extended_text,
    "qti-drawing-interaction": typed_in.by_person,
    "qti-upload-interaction": typed_in.by_person,
    "qti-select-point-interaction": typed_in.points,
}
TAKEN = frozenset({*BLOCKS, *INLINE, STAGE, HELP, "qti-match-interaction"})


def is_interaction(node: Node) -> bool:
    """Whether something is answered here."""
    return node.name.endswith("-interaction") or node.name == STAGE


def interactions(node: Node) -> Iterator[Node]:
    """Yield interactions, not those inside another one."""
    for one in node.children:
        if is_interaction(one):
            yield one
        else:
            yield from interactions(one)


@dataclass(slots=True)
class BodyRead:
    """texts: of the prompt, in order. asked: the parts, each with the text before it from the
    second on."""

    texts: list[str] = field(default_factory=list)
    asked: list[Asked] = field(default_factory=list)
    before: list[str] = field(default_factory=list)

    @property
    def prompt(self) -> str:
        """The whole prompt."""
        return "\n\n".join(text for text in self.texts if text.strip())


def read_body(reading: Reading, body: Node) -> BodyRead:
    """Return what stands in an item's body. NotTaken for what is asked and can't be."""
    _rubrics(reading, body)
    found = BodyRead()
    for nodes in _pieces(body):
        first = nodes[0]
        if isinstance(first, Node) and is_interaction(first) and first.name not in INLINE:
            _interaction(reading, first, found)
            continue
        inner = [
            one
            for node in nodes
            if isinstance(node, Node)
            for one in ([node] if node.name in INLINE else interactions(node))
        ]
        if not inner:
            _text(found, reading.blocks(nodes))
        else:
            _inline(reading, nodes, inner, found)
    found.texts += found.before
    if not found.asked:
        raise NotTaken(gettext("nothing is asked in it"), body.line)
    if len(found.asked) > MOST_PARTS:
        says = gettext("it asks {count} things; at most {most} are taken in one question")
        raise NotTaken(says.format(count=len(found.asked), most=MOST_PARTS), body.line)
    return found


def _pieces(body: Node) -> Iterator[Sequence[Node | str]]:
    """A body piece by piece: blocks, interactions, and what stands loose between them. A block that
    holds block interactions is opened."""
    loose: list[Node | str] = []
    for one in body.within:
        if isinstance(one, str) or one.space == "mathml" or one.name in {"br", "span", "em", "b"}:
            loose.append(one)
            continue
        if any(isinstance(piece, Node) or piece.strip() for piece in loose):
            yield loose
        loose = []
        inner = list(interactions(one)) if one.space == "html" else []
        holds_blocks = one.name != "table" and any(n.name not in INLINE for n in inner)
        if holds_blocks or (inner and one.name in OPENED):
            yield from _pieces(one)
        else:
            yield [one]
    if any(isinstance(piece, Node) or piece.strip() for piece in loose):
        yield loose


def _text(found: BodyRead, text: str) -> None:
    """Text before the first part belongs to the prompt, later text to the part after it."""
    if not text.strip():
        return
    if found.asked:
        found.before.append(text)
    else:
        found.texts.append(text)


def _add(found: BodyRead, asked: Asked, *, several: bool) -> None:
    """Take in a part, with the text before it and its own prompt."""
    said = [*found.before, asked.prompt] if asked.prompt else found.before
    found.before = []
    text = " ".join(" ".join(said).split())
    if not found.asked and not several:
        found.texts += said
    elif text and not asked.part.get("label"):
        if len(text) <= MOST_LABEL:
            asked.part["label"] = to_words(text)
        else:
            found.texts += [f"({len(found.asked) + 1})", *said]
    elif text:
        found.texts.append(text)
    found.asked.append(asked)


def _interaction(reading: Reading, node: Node, found: BodyRead) -> None:
    if node.name == HELP:
        reading.note(gettext("a button: {title}").format(title=node.get("title") or "?"))
        return
    if node.name == "qti-media-interaction":
        reading.note(gettext("a sound or film that has to be played"))
        return
    if node.name not in TAKEN:
        says = gettext("{name}: nothing here can be answered that way")
        raise NotTaken(says.format(name=node.name), node.line)
    if node.name == STAGE:
        for one in node.all("qti-position-object-interaction"):
            _add(found, typed_in.points(reading, one, node), several=bool(found.asked))
    elif node.name == "qti-match-interaction":
        rows = paired_in.match(reading, node)
        if len(rows) > 1 and rows[0].prompt:
            found.texts.append(rows[0].prompt)
            rows[0].prompt = ""
        for asked in rows:
            _add(found, asked, several=len(rows) > 1)
    else:
        _add(found, BLOCKS[node.name](reading, node), several=bool(found.asked))


def _inline(
    reading: Reading, nodes: Sequence[Node | str], inner: Sequence[Node], found: BodyRead
) -> None:
    """A text with fields or drop-downs in it."""
    lists = [one for one in inner if one.name == "qti-inline-choice-interaction"]
    fields = [one for one in inner if one.name == "qti-text-entry-interaction"]
    if len(lists) + len(fields) < len(inner):
        raise NotTaken(gettext("an interaction stands inside a text"), inner[0].line)
    if lists and not fields:
        known = {id(one): f"{{{{{place}}}}}" for place, one in enumerate(lists)}
        text = reading.blocks(nodes, known)
        _add(found, chosen_in.inline_choices(reading, lists, text), several=bool(found.asked))
        return
    table = nodes[0] if len(nodes) == 1 and isinstance(nodes[0], Node) else None
    if table is not None and table.name == "table" and not lists and len(fields) > 1:
        asked = table_entry(reading, table)
        if asked is not None:
            _add(found, asked, several=bool(found.asked))
            return
    several = len(inner) > 1 or bool(found.asked)
    known, parts = {}, []
    for number, one in enumerate(inner, start=len(found.asked) + 1):
        mark = f"({number}) " if several else ""
        known[id(one)] = f"{mark}{BLANK}"
        if one in fields:
            parts.append(typed_in.text_entry(reading, one))
        else:
            asked = chosen_in.inline_choices(reading, [one], "{{0}}")
            parts.append(asked)
    text = reading.blocks(nodes, known)
    alone = text.replace(BLANK, "").strip()
    if several or alone:
        said = text if several or not alone.isspace() else ""
        found.texts += [*found.before, said]
        found.before = []
    for number, asked in enumerate(parts, start=len(found.asked) + 1):
        if several:
            asked.part["label"] = f"({number})"
        found.asked.append(asked)


def table_entry(reading: Reading, table: Node) -> Asked | None:
    """A table with fields in its cells, None for one of another form: headings above, and a label
    before each row."""
    rows = [one for one in table.walk() if one.name == "tr"]
    cells = [row.all("td", "th") for row in rows]
    wide = {len(row) for row in cells}
    head = cells[0] if cells else []
    if len(wide) != 1 or len(head) < 2 or any(list(interactions(one)) for one in head):
        return None
    made: list[dict[str, Plain]] = []
    variables: list[str] = []
    for row in cells[1:]:
        if list(interactions(row[0])):
            return None
        filled: list[Plain] = []
        for cell in row[1:]:
            inner = list(interactions(cell))
            if not inner:
                filled.append(reading.line(cell.within))
                continue
            if len(inner) > 1 or inner[0].name != "qti-text-entry-interaction":
                return None
            asked = typed_in.text_entry(reading, inner[0])
            unit = to_words(reading.line(cell.within))
            fields = {k: v for k, v in asked.part.items() if k != "kind"}
            if unit and fields["value"] == "number":
                fields["unit"] = unit
            variables += asked.variables
            filled.append(fields)
        made.append({"label": to_words(reading.line(row[0].within)), "cells": filled})
    if len(variables) < 2 or len(head) > 9 or len(made) > 12:
        return None
    part: dict[str, Plain] = {
        "kind": "table_entry",
        "id": "table",
        "columns": [to_words(reading.line(one.within)) for one in head],
        "rows": made,
    }
    return Asked(part, {"variables": variables})


def _rubrics(reading: Reading, body: Node) -> None:
    """What is said to markers only: the model answer, for parts that a person marks. What is said
    to others, but not to learners, is noted."""
    told = []
    for node in body.walk():
        if node.name != "qti-rubric-block" or for_learners(node) or is_solution(node):
            continue
        if "scorer" in node.get("view").split():
            told.append(reading.blocks(node.within))
        else:
            reading.note(gettext("what is said to: {view}").format(view=node.get("view")[:60]))
    reading.model = reading.cut("\n\n".join(text for text in told if text.strip()), MOST_MODEL)
