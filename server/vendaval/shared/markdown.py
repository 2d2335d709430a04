"""Markdown of packs to HTML. Raw HTML is not let through; TeX stays as text for the browser."""

from __future__ import annotations

import re
from functools import lru_cache

from markdown_it import MarkdownIt
from mdit_py_plugins.dollarmath import dollarmath_plugin

_UNIT_SPACE = re.compile(r"(?<=\d) (?=(?:m|km|ft|M|kn|h|min|s|hPa|cables)\b)")


@lru_cache(maxsize=1)
def _reader() -> MarkdownIt:
    reader = MarkdownIt("commonmark", {"html": False}).enable(["table", "strikethrough"])
    reader.use(dollarmath_plugin, allow_digits=True, double_inline=True)
    return reader


def kept_together(markdown: str) -> str:
    """A number and its unit stay on one line."""
    return _UNIT_SPACE.sub("\u00a0", markdown)


@lru_cache(maxsize=4096)
def to_html(markdown: str) -> str:
    """A block of Markdown as HTML."""
    return str(_reader().render(kept_together(markdown))).strip()


@lru_cache(maxsize=4096)
def to_inline_html(markdown: str) -> str:
    """One line of Markdown as HTML without a paragraph."""
    return str(_reader().renderInline(kept_together(markdown)))
