"""What a pack looks like as a whole: how hard its prompts read, and its spread per topic."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass

from ..items.versions import make_version
from ..measure.level import level_error
from ..scoring.outcomes import family_curve
from .reader import Pack

TIMES = 3


@dataclass(frozen=True, slots=True)
class TopicSurvey:
    """A topic's families. difficulties: how many of each step 1-5; grade: of the prompts' text.

    errors: standard error of a level of 10, 50 and 95 once each family was answered three times.
    """

    key: str
    families: int
    generated: int
    essential: int
    difficulties: tuple[int, int, int, int, int]
    grade: float
    errors: tuple[float, float, float]


def reading_grade(text: str) -> float:
    """Return the school grade of a text by the automated readability index (Senter and Smith 1967),
    at least 0.

    It counts characters per word and words per sentence. Mathematics counts as one short word.
    """
    plain = re.sub(r"\$[^$]*\$", "x", text)
    words = re.findall(r"[\w'’°.,:-]*\w", plain)
    if not words:
        return 0.0
    sentences = max(1, len(re.findall(r"[.!?:]+(?:\s|$)", plain)))
    characters = sum(len(re.sub(r"\W", "", word)) for word in words)
    index = 4.71 * characters / len(words) + 0.5 * len(words) / sentences - 21.43
    return max(0.0, index)


def survey(pack: Pack) -> list[TopicSurvey]:
    """Return figures on each topic, in the course's order."""
    found = []
    for subject in pack.course.subjects:
        for topic in subject.topics:
            mine = [item.family for item in pack.families if item.family.topic == topic.key]
            steps = Counter(family.difficulty for family in mine)
            first = [make_version(family, 1) for family in mine]
            grades = [reading_grade(version.prompt) for version in first]
            curves = [
                family_curve(version, family.difficulty)
                for version, family in zip(first, mine, strict=True)
            ]
            low, middle, high = (level_error(curves, level, TIMES) for level in (10, 50, 95))
            found.append(
                TopicSurvey(
                    topic.key,
                    len(mine),
                    sum(bool(family.variables) for family in mine),
                    sum(family.essential for family in mine),
                    (steps[1], steps[2], steps[3], steps[4], steps[5]),
                    sum(grades) / max(1, len(grades)),
                    (low, middle, high),
                )
            )
    return found
