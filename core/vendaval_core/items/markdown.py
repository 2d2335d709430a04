"""The Markdown of packs: CommonMark with tables, struck out text and TeX; no HTML in it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from markdown_it import MarkdownIt
from markdown_it.token import Token
from mdit_py_plugins.dollarmath import dollarmath_plugin


@lru_cache(maxsize=1)
def markdown_reader() -> MarkdownIt:
    """Return the one reader of Markdown."""
    reader = MarkdownIt("commonmark", {"html": False}).enable(["table", "strikethrough"])
    reader.use(dollarmath_plugin, allow_digits=True, double_inline=True)
    return reader


@lru_cache(maxsize=4096)
def to_words(markdown: str) -> str:
    """Markdown as the text that people read, without its marks; rows and paragraphs on lines of
    their own."""
    found: list[str] = []
    for token in markdown_reader().parse(markdown):
        if token.type == "inline":
            found.append(_inline_words(token.children or []))
        elif token.type in {"fence", "code_block", "math_block"}:
            found.append(token.content.strip())
        elif token.type in {"paragraph_close", "heading_close", "tr_close"}:
            found.append("\n")
        elif token.type in {"td_close", "th_close"}:
            found.append(" ")
    lines = "".join(found).splitlines()
    return "\n".join(line.strip() for line in lines).strip()


def _inline_words(tokens: Sequence[Token]) -> str:
    breaks = {"softbreak": " ", "hardbreak": "\n"}
    return "".join(breaks.get(token.type, token.content) for token in tokens)
