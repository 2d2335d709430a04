"""Goals of practice, how much is left to them, and which topic of a mix comes next.

Common practice, no published source: forty ideas at two right answers each are 80 questions when
nothing is missed.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from .practice import RIGHT_VERSIONS


def ideas_left(right: Mapping[str, int], ideas: Sequence[str]) -> int:
    """Return how many right first answers the chosen ideas still need, two for each. right: so far,
    by idea."""
    return sum(max(0, RIGHT_VERSIONS - right.get(idea, 0)) for idea in ideas)


def next_idea(right: Mapping[str, int], ideas: Sequence[str], last: str | None) -> str | None:
    """Return the chosen idea to ask next: the one with the fewest right answers, in the order
    chosen, and not the same one twice in a row if another is left. None when each has its two."""
    left = [idea for idea in ideas if right.get(idea, 0) < RIGHT_VERSIONS]
    others = [idea for idea in left if idea != last] or left
    return min(others, key=lambda idea: right.get(idea, 0), default=None)


def next_topic(topics: Sequence[str], asked: Mapping[str, int], met: Mapping[str, bool]) -> str:
    """Return the next topic of a mix. Topics alternate; those whose target is not met come first.

    topics: at least one, in the order chosen. asked: questions so far, by topic.
    """
    open_ = [topic for topic in topics if not met.get(topic, False)] or list(topics)
    return min(open_, key=lambda topic: asked.get(topic, 0))
