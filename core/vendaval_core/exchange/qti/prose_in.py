"""QTI's HTML as our Markdown. What can't be shown is noted, item by item; nothing of the file's
own markup goes on, so that it can neither run nor load anything."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from xml.etree.ElementTree import ParseError

from defusedxml import DefusedXmlException
from mathml_to_latex.converter import MathMLToLaTeX  # type: ignore[import-untyped]
from mathml_to_latex.el_to_tex.protocols import (  # type: ignore[import-untyped]
    InvalidNumberOfChildrenError,
)

from vendaval_core.language import gettext

from ...items.processing.nodes import Node, write_xml
from ..sheet_rows import as_text

_SPACE = re.compile(r"[ \t\r\n\f]+")
_SPECIAL = re.compile(r"([\\`*_\[\]<>$~|]|&(?=#?\w+;))")
_BEGINS = re.compile(r"^(\s*)([#+-]|\d+[.)])(?=\s|$)", re.MULTILINE)
_BLOCKS_NAMES = (
    "p,div,section,article,aside,header,footer,main,ul,ol,li,dl,dt,dd,table,thead,tbody,"
    "tfoot,tr,blockquote,pre,h1,h2,h3,h4,h5,h6,hr,figure,figcaption,caption,address,details,"
    "summary,center"
)
_BLOCKS = frozenset(_BLOCKS_NAMES.split(","))
_STRONG, _EMPHASIS = frozenset({"strong", "b", "th"}), frozenset({"em", "i", "cite", "dfn", "var"})
_SILENT = frozenset({"style", "script", "template", "head", "title", "noscript", "source", "param"})
_PASSED_NAMES = (
    "span,a,small,big,font,u,mark,abbr,acronym,bdi,bdo,time,label,kbd,samp,tt,q,data,ins,s,"
    "strike,del,rb,rbc,rp,rt,rtc,ruby,wbr,center,body,html"
)
_PASSED = frozenset(_PASSED_NAMES.split(","))
MOST_WIDE, MOST_ROWS = 20, 200


@dataclass(slots=True)
class Images:
    """Pictures met on the way, in order: an element each."""

    found: list[Node] = field(default_factory=list)


@dataclass(slots=True)
class Prose:
    """Reads HTML. stands_for: what an element of QTI becomes in the text, None for one that has no
    place in it. images: where pictures are put. lost: what is not kept."""

    stands_for: Callable[[Node], str | None]
    images: Images = field(default_factory=Images)
    lost: list[str] = field(default_factory=list)

    def blocks(self, nodes: Sequence[Node | str]) -> str:
        """Markdown of what stands in a body: blocks with empty lines between them."""
        found: list[str] = []
        run: list[Node | str] = []
        for one in nodes:
            if isinstance(one, Node) and self._is_block(one):
                found += self._paragraph(run)
                run = []
                found += self._block(one)
            else:
                run.append(one)
        found += self._paragraph(run)
        return "\n\n".join(text for text in found if text.strip())

    def line(self, nodes: Sequence[Node | str]) -> str:
        """Markdown of one line, whatever blocks stand in it."""
        parts = []
        for one in nodes:
            if isinstance(one, Node) and one.space == "html" and one.name in _BLOCKS:
                parts.append(f" {self.line(one.within)} ")
            else:
                parts.append(self._inline([one]))
        return _tidied("".join(parts).replace("\n", " "))

    def _is_block(self, node: Node) -> bool:
        if node.space in {"mathml", "svg"} or node.name in {"qti-printed-variable"}:
            return node.get("display") == "block"
        if node.space == "html":
            return node.name in _BLOCKS
        return not node.name.endswith(
            (
                "-entry-interaction",
                "inline-choice-interaction",
                "-gap",
                "-hottext",
                "-feedback-inline",
                "-template-inline",
            )
        )

    def _paragraph(self, run: Sequence[Node | str]) -> list[str]:
        text = _tidied(self._inline(run))
        return [_BEGINS.sub(r"\1\\\2", text)] if text else []

    def _block(self, node: Node) -> list[str]:
        if node.space != "html":
            text = self._other(node)
            return [text] if text else []
        match node.name:
            case "ul" | "ol":
                return [self._list(node)]
            case "table":
                return self._table(node)
            case "hr":
                return ["---"]
            case "blockquote":
                inner = self.blocks(node.within)
                return ["\n".join(f"> {row}".rstrip() for row in inner.splitlines())]
            case "pre":
                return [
                    "\n".join(f"    {as_text(row, trim=False)}" for row in node.text.splitlines())
                ]
            case "h1" | "h2" | "h3" | "h4" | "h5" | "h6" | "dt" | "summary":
                text = _tidied(self._inline(node.within))
                return [f"**{text}**"] if text else []
            case name if name in _SILENT:
                return []
            case _:
                return [self.blocks(node.within)]

    def _list(self, node: Node) -> str:
        rows = []
        for number, item in enumerate(node.all("li"), start=1):
            mark = f"{number}. " if node.name == "ol" else "- "
            inner = self.blocks(item.within).splitlines()
            first, *rest = inner or [""]
            rows.append(mark + first)
            rows += [" " * len(mark) + row if row else "" for row in rest]
        return "\n".join(rows)

    def _table(self, node: Node) -> list[str]:
        rows = [one for one in node.walk() if one.name == "tr"][:MOST_ROWS]
        cells = [
            [self.line(cell.within).replace("\n", " ") for cell in row.all("td", "th")][:MOST_WIDE]
            for row in rows
        ]
        caption = [self.line(one.within) for one in node.all("caption")]
        wide = max((len(row) for row in cells), default=0)
        if not wide:
            return caption
        if any(
            cell.get("rowspan", "1") != "1" or cell.get("colspan", "1") != "1"
            for row in rows
            for cell in row.all("td", "th")
        ):
            self.lost.append(gettext("cells of a table that span others"))
        padded = [row + [""] * (wide - len(row)) for row in cells]
        head = padded[0] if rows[0].all("th") and not rows[0].all("td") else [""] * wide
        body = padded[1:] if head is padded[0] else padded
        lines = [head, ["---"] * wide, *body]
        return [*caption, "\n".join(f"| {' | '.join(row)} |" for row in lines)]

    def _inline(self, nodes: Sequence[Node | str]) -> str:
        return "".join(
            escaped(one) if isinstance(one, str) else self._element(one) for one in nodes
        )

    def _element(self, node: Node) -> str:
        if node.space == "mathml":
            return self._formula(node)
        if node.space == "svg":
            self.images.found.append(node)
            return ""
        if node.space != "html":
            return self._other(node)
        match node.name:
            case "br":
                return "\\\n"
            case "img":
                self.images.found.append(node)
                return ""
            case "object" | "embed" | "picture":
                return self._object(node)
            case "audio" | "video" | "track":
                self.lost.append(gettext("a sound or film: {name}").format(name=_source(node)))
                return ""
            case "iframe" | "script" | "form" | "button" | "input" | "select" | "textarea":
                self.lost.append(gettext("<{name}>, which is not taken in").format(name=node.name))
                return ""
            case "sub" | "sup":
                return self._raised(node)
            case "code":
                return f"`{as_text(node.text).replace('`', '')}`" if node.text.strip() else ""
            case name if name in _STRONG:
                return _around("**", self._inline(node.within))
            case name if name in _EMPHASIS:
                return _around("*", self._inline(node.within))
            case name if name in _SILENT:
                return ""
            case name if name in _BLOCKS:
                return f" {self.line(node.within)} "
            case name:
                if name not in _PASSED:
                    self.lost.append(gettext("<{name}> around a text").format(name=name))
                if name == "a" and node.get("href"):
                    self.lost.append(gettext("a link: {href}").format(href=node.get("href")[:80]))
                return self._inline(node.within)

    def _object(self, node: Node) -> str:
        kind, source = node.get("type"), _source(node)
        if kind.startswith("image/") or re.search(r"\.(png|jpe?g|gif|svg|webp)$", source.lower()):
            self.images.found.append(node)
        elif node.name == "picture":
            inner = next((one for one in node.walk() if one.name == "img"), None)
            if inner is not None:
                self.images.found.append(inner)
        else:
            self.lost.append(gettext("an object that can’t be shown: {name}").format(name=source))
        return ""

    def _raised(self, node: Node) -> str:
        text = node.text.strip()
        if not text:
            return ""
        mark = "_" if node.name == "sub" else "^"
        inner = text if re.fullmatch(r"[\w+−,.()-]+", text) else ""
        if not inner:
            return self._inline(node.within)
        said = inner if re.fullmatch(r"[\d+−.,-]+", inner) else rf"\text{{{inner}}}"
        return f"${mark}{{{said}}}$"

    def _formula(self, node: Node) -> str:
        for one in node.walk():
            if one.name in {"annotation"} and "tex" in one.get("encoding").lower():
                return _dollars(one.text)
        try:
            tex = MathMLToLaTeX().convert(write_xml(_plain(node)))
        except (
            ParseError,
            DefusedXmlException,
            ValueError,
            KeyError,
            IndexError,
            AttributeError,
            TypeError,
            RecursionError,
            InvalidNumberOfChildrenError,
        ):
            self.lost.append(gettext("how a formula looks: {text}").format(text=node.text[:60]))
            return escaped(node.text)
        return _dollars(str(tex))

    def _other(self, node: Node) -> str:
        stands = self.stands_for(node)
        return "" if stands is None else stands


def _plain(node: Node) -> Node:
    """A formula without what only some programs write into it."""
    within = tuple(
        one if isinstance(one, str) else _plain(one)
        for one in node.within
        if isinstance(one, str) or not one.name.startswith("annotation")
    )
    if node.name == "semantics":
        return Node("mrow", "mathml", {}, 0, within)
    keep = {k: v for k, v in node.attributes.items() if k in {"open", "close", "separators"}}
    return Node(node.name, "mathml", keep, 0, within)


def _dollars(tex: str) -> str:
    said = _SPACE.sub(" ", tex).replace("$", "")
    return f"${as_text(said)}$" if said.strip() else ""


def _source(node: Node) -> str:
    said = node.get("src") or node.get("data") or node.get("href")
    inner = next((one for one in node.children if one.name == "source"), None)
    return (said or (inner.get("src") if inner is not None else ""))[:100]


def _around(mark: str, text: str) -> str:
    inner = text.strip()
    if not inner or mark in inner:
        return text
    before = text[: len(text) - len(text.lstrip())] and " "
    after = text[len(text.rstrip()) :] and " "
    return f"{before}{mark}{inner}{mark}{after}"


def escaped(text: str) -> str:
    return _SPECIAL.sub(r"\\\1", _SPACE.sub(" ", text)).replace("{{", "{ {")


def _tidied(text: str) -> str:
    lines = [re.sub(r" {2,}", " ", line).strip() for line in text.strip().split("\n")]
    return "\n".join(lines).strip().removesuffix("\\").strip()
