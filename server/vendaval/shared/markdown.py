"""Markdown of packs to HTML. Raw HTML is not let through; TeX stays as text for the browser."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from markdown_it.token import Token

from vendaval_core.items.markdown import markdown_reader
from vendaval_core.items.template import kept_together


@lru_cache(maxsize=4096)
def to_html(markdown: str) -> str:
    """A block of Markdown as HTML."""
    return str(markdown_reader().render(kept_together(markdown))).strip()


@lru_cache(maxsize=4096)
def to_inline_html(markdown: str) -> str:
    """One line of Markdown as HTML without a paragraph."""
    return str(markdown_reader().renderInline(kept_together(markdown)))


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
