"""Markdown of packs to HTML. Raw HTML is not let through; TeX stays as text for the browser."""

from __future__ import annotations

from functools import lru_cache

from markdown_it import MarkdownIt
from mdit_py_plugins.dollarmath import dollarmath_plugin

from vendaval_core.items.template import kept_together


@lru_cache(maxsize=1)
def _reader() -> MarkdownIt:
    reader = MarkdownIt("commonmark", {"html": False}).enable(["table", "strikethrough"])
    reader.use(dollarmath_plugin, allow_digits=True, double_inline=True)
    return reader


@lru_cache(maxsize=4096)
def to_html(markdown: str) -> str:
    """A block of Markdown as HTML."""
    return str(_reader().render(kept_together(markdown))).strip()


@lru_cache(maxsize=4096)
def to_inline_html(markdown: str) -> str:
    """One line of Markdown as HTML without a paragraph."""
    return str(_reader().renderInline(kept_together(markdown)))
