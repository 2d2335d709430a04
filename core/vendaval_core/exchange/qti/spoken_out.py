"""What is read aloud, as a catalogue beside the item."""

from __future__ import annotations

from vendaval_core.language import gettext, gettext_noop

from ...items.processing.nodes import Node, h, q
from ...items.versions import Version
from .prose_out import blocks

SPOKEN = "prompt-spoken"


def catalog(version: Version) -> Node:
    """Return the catalogue with the prompt as it is spoken."""
    said = " ".join(_spoken(block) for block in blocks(version.prompt))
    card = q("card", q("html-content", h("p", " ".join(said.split()))), support="spoken")
    return q("catalog-info", q("catalog", card, id=SPOKEN))


def _spoken(node: Node) -> str:
    """The words of a block; a formula as its TeX is read, cell after cell with a pause."""
    if node.space == "mathml":
        return f" {_formula(node)} "
    pause = ", " if node.name in {"td", "th", "li", "tr"} else ""
    return "".join(one if isinstance(one, str) else _spoken(one) for one in node.within) + pause


_WORDS = {
    "+": "plus",
    "−": "minus",
    "-": "minus",
    "×": "times",
    "⋅": "times",
    "=": "equals",
    "≈": gettext_noop("is about"),
    "<": gettext_noop("is less than"),
    ">": gettext_noop("is greater than"),
    "≤": gettext_noop("is at most"),
    "≥": gettext_noop("is at least"),
    "°": "degrees",
    "′": "minutes",
}


def _formula(node: Node) -> str:
    """A formula in words. Common practice, no published source."""
    parts = [one if isinstance(one, str) else _formula(one) for one in node.within]
    match node.name, parts:
        case "mfrac", [over, under]:
            return f"{over} over {under}"
        case "msup", [base, power]:
            return gettext("{base} to the power of {power}").format(base=base, power=power)
        case "msub", [base, index]:
            return f"{base} {index}"
        case "msqrt", _:
            return gettext("the root of {what}").format(what=" ".join(parts))
        case _:
            return " ".join(_said(one.strip()) for one in parts).strip()


def _said(sign: str) -> str:
    return gettext(_WORDS[sign]) if sign in _WORDS else sign
