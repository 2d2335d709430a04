"""Markdown of packs to HTML. Raw HTML is not let through; TeX stays as text for the browser."""

from __future__ import annotations

from functools import lru_cache

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
