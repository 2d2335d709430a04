"""QTI's interactions in which something is chosen, ordered, matched or joined, as our parts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from xml.sax.saxutils import escape

from vendaval_core.language import gettext

from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ...items.processing.shapes import read_coords
from ...items.processing.values import ProcessingError
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
from .pictures_in import Pictured
from .prose_in import escaped

MOST_CHOICES, MOST_SLOTS, MOST_TOKENS, MOST_PAIRS = 12, 8, 16, 6


def whole(node: Node, name: str, default: int) -> int:
    text = node.get(name)
    return int(text) if text.isdigit() else default


def _flag(node: Node, name: str) -> bool:
    return node.get(name).lower() in {"true", "1"}


def texts_of(reading: Reading, nodes: Sequence[Node]) -> dict[str, str]:
    """Texts of choices by identifier; a picture's description where there is nothing else."""
    found = {}
    for number, node in enumerate(nodes, start=1):
        within = [
            one
            for one in node.within
            if isinstance(one, str) or not one.name.startswith("qti-feedback")
        ]
        name = gettext("Picture {number}").format(number=number)
        if node.get("identifier") in found:
            says = gettext("two choices have the identifier “{name}”")
            raise NotTaken(says.format(name=node.get("identifier")[:60]), node.line)
        found[node.get("identifier")] = reading.line(within, name)
    return found


def _of_choices(
    reading: Reading, node: Node, texts: Mapping[str, str], kind: str, **more: Plain
) -> Asked:
    """A choice among texts by identifier, with what the file's mapping gives for each."""
    declared = reading.variable(node)
    texts_differ(list(texts.values()), node)
    most(len(texts), MOST_CHOICES, gettext("choices"), node)
    if len(texts) < 2:
        raise NotTaken(gettext("there is only one choice"), node.line)
    right = {said(one) for one in reading.right(declared, node)} & set(texts)
    if not right:
        raise NotTaken(gettext("the file doesn’t say what is right"), node.line)
    single = declared.cardinality == "single"
    limit = whole(node, "max-choices", 1)
    choose: int | str = 1 if single else "any"
    if not single and limit == len(right) == whole(node, "min-choices", 0):
        choose = limit
    choices: list[dict[str, Plain]] = [
        {"text": text, **({"right": True} if id_ in right else {})} for id_, text in texts.items()
    ]
    part: dict[str, Plain] = {"kind": kind, "id": part_id(declared.identifier)}
    if choose != 1:
        part["choose"] = choose
    part |= more
    points = _points(declared, list(texts), right)
    if points == "shares":
        part["partial"] = True
    elif isinstance(points, tuple):
        worth, bounds = points
        part["bounds"] = bounds
        for choice, id_ in zip(choices, texts, strict=True):
            if worth.get(id_):
                choice["points"] = worth[id_]
    part["choices"] = choices
    ids = {text: id_ for id_, text in texts.items()}
    return Asked(part, naming(declared.identifier, ids=ids), labelled_prompt(reading, node))


def _points(
    declared: Declaration, ids: Sequence[str], right: set[str]
) -> str | tuple[dict[str, int], list[int]] | None:
    """What a mapping says in our words: nothing, a share for each right choice, or points between
    bounds."""
    mapping = declared.mapping
    if mapping is None:
        return None
    worth = {id_: mapping.of(id_) for id_ in ids}
    positive = {worth[id_] for id_ in right}
    others = {worth[id_] for id_ in ids if id_ not in right}
    full = sum(worth[id_] for id_ in right)
    top = full if mapping.most is None else min(mapping.most, full)
    if declared.cardinality == "single":
        if others <= {0.0}:
            return None
        top = max(worth.values())
    elif len(positive) == 1 and others <= {-next(iter(positive))} and top == full:
        return "shares"
    for scale in (1, 2, 3, 4, 5, 6, 8, 10):
        scaled = {id_: value * scale for id_, value in worth.items()}
        bounds = [max(0.0, (mapping.least or 0.0) * scale), top * scale]
        numbers = [*scaled.values(), *bounds]
        whole = all(abs(one - round(one)) < 1e-9 and abs(one) <= 10 for one in numbers)
        if whole and bounds[0] < bounds[1] and bounds[1] >= 1:
            return {k: round(v) for k, v in scaled.items()}, [round(one) for one in bounds]
    return None


def choice(reading: Reading, node: Node) -> Asked:
    """Simple choices."""
    texts = texts_of(reading, node.all("qti-simple-choice"))
    more = {} if _flag(node, "shuffle") else {"shuffle": False}
    return _of_choices(reading, node, texts, "choice", **more)


def hot_text(reading: Reading, node: Node) -> Asked:
    """Words in a text."""
    marks = [one for one in node.walk() if one.name == "qti-hottext"]
    texts = texts_of(reading, marks)
    known = {id(one): f"{{{{{place}}}}}" for place, one in enumerate(marks)}
    rest = [one for one in node.within if isinstance(one, str) or one.name != "qti-prompt"]
    return _of_choices(reading, node, texts, "hot_text", text=reading.blocks(rest, known))


def region(reading: Reading, node: Node, on: Pictured) -> dict[str, list[float]]:
    """A place on a picture as ours. A polygon or an ellipse becomes the rectangle around it, which
    changes only where one may press."""
    shape = node.get("shape", "rect")
    try:
        numbers = read_coords(shape, node.get("coords"), node.line)
    except ProcessingError as error:
        raise NotTaken(error.what, error.line) from None
    match shape:
        case "circle":
            return {"circle": [round(one, 3) for one in numbers]}
        case "rect":
            left, top, right, bottom = numbers
        case "ellipse":
            across, down, wide, high = numbers
            left, top, right, bottom = across - wide, down - high, across + wide, down + high
        case "poly":
            xs, ys = numbers[::2], numbers[1::2]
            left, top, right, bottom = min(xs), min(ys), max(xs), max(ys)
        case _:
            left, top, right, bottom = 0.0, 0.0, on.wide, on.high
    if shape in {"poly", "ellipse"}:
        reading.remark(gettext("The outline of a place became the rectangle around it."))
    sides = [min(left, right), min(top, bottom), abs(right - left), abs(bottom - top)]
    return {"rect": [round(one, 3) for one in sides]}


def hotspots(reading: Reading, nodes: Sequence[Node], on: Pictured) -> dict[str, Plain]:
    found = {}
    for number, node in enumerate(nodes, start=1):
        name = escaped(node.get("hotspot-label")) or gettext("place {number}").format(number=number)
        found[node.get("identifier")] = (name, region(reading, node, on))
    return found


def figure(on: Pictured) -> dict[str, str]:
    """A figure as a family's file has it."""
    return {"alt": on.alt or gettext("A picture without a description"), "svg": on.svg}


def hotspot(reading: Reading, node: Node) -> Asked:
    """Places on a picture."""
    on = reading.on_picture(node)
    places = hotspots(reading, node.all("qti-hotspot-choice"), on)
    texts = {id_: name for id_, (name, _) in places.items()}
    asked = _of_choices(reading, node, texts, "hotspot", figure=figure(on))
    for one, (_, at) in zip(asked.part["choices"], places.values(), strict=True):
        one["at"] = at
    return asked


def order(reading: Reading, node: Node) -> Asked:
    """Items in order, also those that are places on a picture."""
    declared = reading.variable(node)
    if node.name == "qti-graphic-order-interaction":
        texts = numbered(reading, node, "qti-hotspot-choice")
    else:
        texts = texts_of(reading, node.all("qti-simple-choice"))
    right = [said(one) for one in reading.right(declared, node)]
    texts_differ(list(texts.values()), node)
    if sorted(right) != sorted(texts):
        raise NotTaken(gettext("not every item has its place in the right order"), node.line)
    if not 3 <= len(right) <= MOST_SLOTS:
        says = gettext("it has {count} items to order; 3 to {most} are taken")
        raise NotTaken(says.format(count=len(right), most=MOST_SLOTS), node.line)
    part = {
        "kind": "order",
        "id": part_id(declared.identifier),
        "items": [texts[one] for one in right],
    }
    ids = {text: id_ for id_, text in texts.items()}
    return Asked(part, naming(declared.identifier, ids=ids), labelled_prompt(reading, node))


def numbered(reading: Reading, node: Node, name: str) -> dict[str, str]:
    """Places on a picture with their numbers drawn on it."""
    on = reading.on_picture(node)
    places = hotspots(reading, node.all(name), on)
    drawn, texts = [], {}
    size = max(10.0, min(on.wide, on.high) / 22)
    for number, (id_, (label, at)) in enumerate(places.items(), start=1):
        x, y = _middle(at)
        drawn.append(
            f'<circle cx="{x:g}" cy="{y:g}" r="{size:g}" fill="white" stroke="black"/>'  # not said
            f'<text x="{x:g}" y="{y + size * 0.4:g}" font-size="{size * 1.2:g}"'
            f' text-anchor="middle" fill="black">{number}</text>'
        )
        own = gettext("place {number}").format(number=number)
        texts[id_] = own if label == own else f"{number}: {escape(label)}"
    shown = on.svg.replace("</svg>", f"{''.join(drawn)}</svg>")
    reading.figures.append(("", Pictured(shown, on.wide, on.high, on.alt)))
    return texts


def _middle(at: Mapping[str, Sequence[float]]) -> tuple[float, float]:
    if "circle" in at:
        return at["circle"][0], at["circle"][1]
    x, y, wide, high = at["rect"]
    return x + wide / 2, y + high / 2


def inline_choices(reading: Reading, nodes: Sequence[Node], text: str) -> Asked:
    """Drop-downs in one text, together. text: with `{{0}}` … where they stand."""
    gaps, variables, ids = [], [], {}
    for node in nodes:
        declared = reading.variable(node)
        texts = texts_of(reading, node.all("qti-inline-choice"))
        texts_differ(list(texts.values()), node)
        if not 2 <= len(texts) <= MOST_SLOTS:
            says = gettext("a list has {count} choices; 2 to {most} are taken")
            raise NotTaken(says.format(count=len(texts), most=MOST_SLOTS), node.line)
        right = said(reading.right(declared, node)[0])
        if right not in texts:
            raise NotTaken(gettext("the file doesn’t say what is right"), node.line)
        gaps.append({"choices": list(texts.values()), "right": texts[right]})
        variables.append(declared.identifier)
        ids[declared.identifier] = {text_: id_ for id_, text_ in texts.items()}
    most(len(gaps), MOST_SLOTS, gettext("lists"), nodes[0])
    every = dict.fromkeys(text_ for gap in gaps for text_ in gap["choices"])
    most(len(every), MOST_TOKENS, gettext("choices"), nodes[0])
    part = {
        "kind": "inline_choice",
        "id": part_id(variables[0]),
        "text": text,
        "gaps": gaps,
    }
    return Asked(part, naming(*variables, each=[ids[name] for name in variables]), "")
