"""Texts in our Markdown as the HTML that QTI allows, with formulas as MathML."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from latex2mathml.converter import convert
from latex2mathml.exceptions import (
    DenominatorNotFoundError,
    DoubleSubscriptsError,
    DoubleSuperscriptsError,
    ExtraLeftOrMissingRightError,
    InvalidAlignmentError,
    InvalidStyleForGenfracError,
    InvalidWidthError,
    LimitsMustFollowMathOperatorError,
    MissingEndError,
    MissingSuperScriptOrSubscriptError,
    NoAvailableTokensError,
    NumeratorNotFoundError,
)
from markdown_it.tree import SyntaxTreeNode

from ...items.markdown import markdown_reader
from ...items.processing.nodes import Node, XmlError, h, read_xml

_UNREADABLE = (
    DenominatorNotFoundError,
    DoubleSubscriptsError,
    DoubleSuperscriptsError,
    ExtraLeftOrMissingRightError,
    InvalidAlignmentError,
    InvalidStyleForGenfracError,
    InvalidWidthError,
    LimitsMustFollowMathOperatorError,
    MissingEndError,
    MissingSuperScriptOrSubscriptError,
    NoAvailableTokensError,
    NumeratorNotFoundError,
    XmlError,
)
_GAP = re.compile(r"\{\{(\w+)\}\}")
_NAMES = {
    "paragraph": "p",
    "bullet_list": "ul",
    "ordered_list": "ol",
    "list_item": "li",
    "strong": "strong",
    "em": "em",
    "s": "s",
    "blockquote": "blockquote",
    "table": "table",
    "thead": "thead",
    "tbody": "tbody",
    "tr": "tr",
    "th": "th",
    "td": "td",
}
Gaps = Mapping[str, Node]


def blocks(markdown: str, gaps: Gaps | None = None) -> list[Node]:
    """Return a text as blocks. gaps: what stands for `{{name}}` in it."""
    tree = SyntaxTreeNode(markdown_reader().parse(markdown))
    found = [one for child in tree.children for one in _block(child, gaps or {})]
    return [one if isinstance(one, Node) else h("p", one) for one in found]


def line(markdown: str, gaps: Gaps | None = None) -> list[Node | str]:
    """Return one line of text as what stands inside a block."""
    tree = SyntaxTreeNode(markdown_reader().parseInline(markdown))
    return [one for child in tree.children for one in _inline(child, gaps or {})]


def _block(node: SyntaxTreeNode, gaps: Gaps) -> list[Node | str]:
    match node.type:
        case "inline":
            return _children(node, gaps)
        case "heading":
            return [h(node.tag, *_blocks_in(node, gaps))]
        case "math_block":
            return [h("p", mathml(node.content, display=True))]
        case "fence" | "code_block":
            return [h("pre", h("code", node.content))]
        case "hr":
            return [h("hr")]
        case name:
            return [h(_NAMES.get(name, "div"), *_blocks_in(node, gaps))]


def _blocks_in(node: SyntaxTreeNode, gaps: Gaps) -> list[Node | str]:
    return [one for child in node.children for one in _block(child, gaps)]


def _children(node: SyntaxTreeNode, gaps: Gaps) -> list[Node | str]:
    return [one for child in node.children for one in _inline(child, gaps)]


def _inline(node: SyntaxTreeNode, gaps: Gaps) -> list[Node | str]:
    match node.type:
        case "text":
            return _with_gaps(node.content, gaps)
        case "softbreak":
            return [" "]
        case "hardbreak":
            return [h("br")]
        case "code_inline":
            return [h("code", node.content)]
        case "math_inline" | "math_inline_double":
            return [mathml(node.content, display=node.type.endswith("double"))]
        case "link":
            return [h("a", *_children(node, gaps), href=str(node.attrs.get("href", "")))]
        case "image":
            return [h("em", *_children(node, gaps))]
        case "inline":
            return _children(node, gaps)
        case name:
            return [h(_NAMES.get(name, "span"), *_children(node, gaps))]


def _with_gaps(text: str, gaps: Gaps) -> list[Node | str]:
    found: list[Node | str] = []
    for place, piece in enumerate(_GAP.split(text)):
        if place % 2 == 0:
            if piece:
                found.append(piece)
        else:
            found.append(gaps.get(piece, f"{{{{{piece}}}}}"))
    return found


def mathml(tex: str, *, display: bool = False) -> Node:
    """Return a formula as MathML; as code where its TeX can't be read."""
    try:
        node = read_xml(convert(tex.strip(), display="block" if display else "inline"))
    except _UNREADABLE:
        return h("code", tex)
    said = {**node.attributes, "alttext": tex.strip()}
    return Node(node.name, node.space, said, 0, node.within)


def inside(nodes: Sequence[Node | str]) -> Sequence[Node | str]:
    """Return what stands in the only paragraph of a text, or its blocks."""
    only = nodes[0] if len(nodes) == 1 else None
    return only.within if isinstance(only, Node) and only.name == "p" else nodes
