"""A text with structure, as the editor of written answers makes it: paragraphs, lists, a table,
emphasis and formulas. Nothing else can be in it, whatever was sent.

The editor (web/src/player/kinds/extended_text/schema.ts) allows the same. Its form is a tree of
nodes in JSON: `{"type": "doc", "content": [...]}`, a text with its marks at each leaf. A response
that does not begin so is a text without structure.

Places in the text are counted in UTF-16 units, as browsers count them.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Literal, cast, get_args

from vendaval_core.errors import CoreError
from vendaval_core.language import gettext

BEGINS = '{"type":"doc"'
LONGEST = 60_000
MOST_NODES, DEEPEST = 4_000, 14
LONGEST_FORMULA = 600

Mark = Literal["bold", "italic", "underline", "subscript", "superscript"]
MARKS: tuple[Mark, ...] = get_args(Mark)
Block = Literal[
    "doc",
    "paragraph",
    "bulletList",
    "orderedList",
    "listItem",
    "table",
    "tableRow",
    "tableHeader",
    "tableCell",
]
_FLOW = frozenset({"paragraph", "bulletList", "orderedList", "table"})
_ITEM = frozenset({"paragraph", "bulletList", "orderedList"})
# What may stand in what. Text stands in paragraphs alone.
_WITHIN: Mapping[Block, frozenset[str]] = {
    "doc": _FLOW,
    "paragraph": frozenset({"text", "hardBreak", "formula"}),
    "bulletList": frozenset({"listItem"}),
    "orderedList": frozenset({"listItem"}),
    "listItem": _ITEM,
    "table": frozenset({"tableRow"}),
    "tableRow": frozenset({"tableHeader", "tableCell"}),
    "tableHeader": _ITEM,
    "tableCell": _ITEM,
}
_CELLS = frozenset({"tableHeader", "tableCell"})
BETWEEN_CELLS = " | "
# What no person types and files and databases choke on.
_UNWRITABLE = re.compile("[\x00-\x1f\x7f\ud800-\udfff\ufffe\uffff]")
_WORD = re.compile(r"[^\W_]+(?:['’.,:/-][^\W_]+)*")


class RichTextError(CoreError):
    """A text whose structure is not one of ours."""


@dataclass(frozen=True, slots=True)
class Run:
    """A stretch of text. at: where it begins in the whole. tex: of a formula, whose text is how it
    was typed; None for words."""

    at: int
    text: str
    marks: tuple[Mark, ...] = ()
    tex: str | None = None


@dataclass(frozen=True, slots=True)
class Node:
    """A block and what stands in it. start: the first number of a numbered list."""

    kind: Block
    within: tuple[Node | Run, ...]
    start: int = 1


@dataclass(frozen=True, slots=True)
class RichText:
    """A text that was read: its structure, and its words, a line for each paragraph, item and row
    of a table."""

    root: Node
    text: str


def is_rich(response: str) -> bool:
    """Return whether a response has structure."""
    return response.startswith(BEGINS)


def read_rich(response: str) -> RichText:
    """Return a text with structure, with nothing in it but what can be.

    Raises RichTextError for what is no such text, is too long, or too deep.
    """
    if len(response) > LONGEST:
        raise RichTextError(gettext("The text is too long."))
    try:
        sent = json.loads(response)
    except (ValueError, RecursionError):
        raise RichTextError(gettext("The text can’t be read.")) from None
    reader = _Reader()
    root = reader.node(sent, "doc", 0)
    return RichText(root, "".join(reader.said))


def tidied(response: str) -> str:
    """Return a response as it is kept: of a text with structure that structure alone, and "" where
    nothing is in it. Every other response comes back as it is. Raises RichTextError."""
    if not is_rich(response):
        return response
    read = read_rich(response)
    if not read.text.strip():
        return ""
    return json.dumps(_written(read.root), ensure_ascii=False, separators=(",", ":"))


def words_of(response: str) -> str:
    """Return the words of a response, with structure or without."""
    return read_rich(response).text if is_rich(response) else response


def count_words(text: str) -> int:
    """Return how many words a text has: letters and digits without a space between them, with
    apostrophes, hyphens and points inside."""
    return len(_WORD.findall(text))


def length(text: str) -> int:
    """Return the length of a text in UTF-16 units."""
    return len(text.encode("utf-16-le")) // 2


class _Reader:
    """Reads nodes and says their text in the same breath, so that places in it agree."""

    def __init__(self) -> None:
        self.said: list[str] = []
        self.at = 0
        self.nodes = 0
        self.fresh = True

    def node(self, sent: object, kind: Block, depth: int) -> Node:
        if not isinstance(sent, dict) or sent.get("type") != kind or depth > DEEPEST:
            raise RichTextError(gettext("The text can’t be read."))
        content = sent.get("content", [])
        if not isinstance(content, list):
            raise RichTextError(gettext("The text can’t be read."))
        start = _number(sent, "start", 1) if kind == "orderedList" else 1
        if kind == "paragraph" and not self.fresh:
            self._say("\n")
        self.fresh = self.fresh and kind != "paragraph"
        within = tuple(self._within(content, kind, depth, start))
        return Node(kind, within, start)

    def _within(
        self, content: list[Any], kind: Block, depth: int, start: int
    ) -> Iterator[Node | Run]:
        for n, one in enumerate(content):
            self.nodes += 1
            name = one.get("type") if isinstance(one, dict) else None
            if name not in _WITHIN[kind] or self.nodes > MOST_NODES:
                raise RichTextError(gettext("The text can’t be read."))
            if kind == "paragraph":
                run = self._run(one, cast(str, name))
                if run.text:
                    yield run
                continue
            if kind in {"bulletList", "orderedList"}:
                self._line("- " if kind == "bulletList" else f"{start + n}. ")
            elif kind == "table":
                self._line("")
            elif name in _CELLS and n:
                self._say(BETWEEN_CELLS)
                self.fresh = True
            yield self.node(one, cast(Block, name), depth + 1)
            if kind in {"table", "bulletList", "orderedList"}:
                self.fresh = False

    def _run(self, sent: dict[str, Any], name: str) -> Run:
        at = self.at
        if name == "hardBreak":
            self._say("\n")
            return Run(at, "\n")
        if name == "formula":
            tex, typed = (_attribute(sent, key) for key in ("tex", "text"))
            self._say(typed or tex)
            return Run(at, typed or tex, (), tex)
        text = sent.get("text")
        marks = sent.get("marks", [])
        if not isinstance(text, str) or not isinstance(marks, list):
            raise RichTextError(gettext("The text can’t be read."))
        given = {one.get("type") for one in marks if isinstance(one, dict)}
        text = _UNWRITABLE.sub(" ", text)
        self._say(text)
        return Run(at, text, tuple(mark for mark in MARKS if mark in given))

    def _line(self, begins: str) -> None:
        if not self.fresh:
            self._say("\n")
        self._say(begins)
        self.fresh = True

    def _say(self, text: str) -> None:
        self.said.append(text)
        self.at += length(text)


def _attributes(sent: dict[str, Any]) -> dict[str, Any]:
    found = sent.get("attrs")
    return found if isinstance(found, dict) else {}


def _number(sent: dict[str, Any], name: str, default: int) -> int:
    found = _attributes(sent).get(name, default)
    return found if isinstance(found, int) and 0 <= found <= 9999 else default


def _attribute(sent: dict[str, Any], name: str) -> str:
    found = _attributes(sent).get(name, "")
    if not isinstance(found, str) or len(found) > LONGEST_FORMULA:
        raise RichTextError(gettext("A formula is too long."))
    return _UNWRITABLE.sub(" ", found)


def _written(node: Node | Run) -> dict[str, Any]:
    if isinstance(node, Node):
        found: dict[str, Any] = {"type": node.kind}
        if node.kind == "orderedList" and node.start != 1:
            found["attrs"] = {"start": node.start}
        if node.within:
            found["content"] = [_written(one) for one in node.within]
        return found
    if node.tex is not None:
        return {"type": "formula", "attrs": {"tex": node.tex, "text": node.text}}
    if node.text == "\n":
        return {"type": "hardBreak"}
    found = {"type": "text", "text": node.text}
    if node.marks:
        found["marks"] = [{"type": mark} for mark in node.marks]
    return found
