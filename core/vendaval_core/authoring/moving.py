"""A question moved to another topic: where it is explained stays the same page."""

from __future__ import annotations


def study_from(study: str, topic: str, into: str) -> str:
    """Return a question's study section, "section" or "topic#section", as it is written in another
    topic. topic, into: keys of the old and the new one.

    >>> study_from("words", "tides", "buoys"), study_from("buoys#marks", "tides", "buoys")
    ('tides#words', 'marks')
    """
    where, _, section = study.rpartition("#")
    where = where or topic
    return section if where == into else f"{where}#{section}"
