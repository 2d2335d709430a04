"""A change that many questions are given at once, as it stands in each of their files."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal

Change = Literal["essential", "not_essential", "difficulty", "topic"]


def with_change(
    data: Mapping[str, Any], change: Change, *, topic: str, into: str = "", difficulty: int = 0
) -> dict[str, Any]:
    """Return a question's fields after a change. topic: that it is in; into: that it moves to.
    difficulty: 1 to 5.

    >>> with_change({"study": "words"}, "topic", topic="tides", into="buoys")
    {'study': 'tides#words'}
    """
    match change:
        case "essential":
            return {**data, "essential": True}
        case "not_essential":
            return {key: value for key, value in data.items() if key != "essential"}
        case "difficulty":
            return {**data, "difficulty": difficulty}
        case "topic":
            return {**data, "study": study_from(str(data.get("study", "")), topic, into)}


def study_from(study: str, topic: str, into: str) -> str:
    """Return where a question is explained, "section" or "topic#section", as it is written in the
    topic that it moves to: the page stays the same.

    >>> study_from("words", "tides", "buoys"), study_from("buoys#marks", "tides", "buoys")
    ('tides#words', 'marks')
    """
    where, _, section = study.rpartition("#")
    where = where or topic
    return section if where == into else f"{where}#{section}"
