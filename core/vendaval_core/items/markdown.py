"""The Markdown of packs: CommonMark with tables, struck out text and TeX; no HTML in it."""

from __future__ import annotations

from functools import lru_cache

from markdown_it import MarkdownIt
from mdit_py_plugins.dollarmath import dollarmath_plugin


@lru_cache(maxsize=1)
def markdown_reader() -> MarkdownIt:
    """Return the one reader of Markdown."""
    reader = MarkdownIt("commonmark", {"html": False}).enable(["table", "strikethrough"])
    reader.use(dollarmath_plugin, allow_digits=True, double_inline=True)
    return reader
