"""What was answered, as files of it say it."""

from __future__ import annotations

from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.markdown import to_words


def given_words(key: Key, response: str) -> str:
    """A response in words: without the marks of the author's Markdown, which choices are written
    in. What a learner wrote themselves has none, and stays as it is."""
    words = key.answer_words(response)
    return words if key.by_person is not None else to_words(words)
