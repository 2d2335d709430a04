"""Study pages: Markdown cut into sections by `## Title {#id}`."""

from __future__ import annotations

import re
from dataclasses import dataclass

from .located import PackProblem

_HEADING = re.compile(r"^## +(?P<title>.+?) +\{#(?P<id>[a-z][a-z0-9-]*)\}\s*$")
WORDS_PER_MINUTE = 150


@dataclass(frozen=True, slots=True)
class StudySection:
    """One section: id families point to, title, Markdown, and minutes to read."""

    id: str
    title: str
    markdown: str

    @property
    def minutes(self) -> int:
        """Whole minutes to read it, at least 1."""
        return max(1, round(len(self.markdown.split()) / WORDS_PER_MINUTE))


def read_study_page(text: str, file: str) -> tuple[list[StudySection], list[PackProblem]]:
    """Sections of a page in order, and what is wrong with it."""
    sections: list[StudySection] = []
    problems: list[PackProblem] = []
    current: tuple[str, str] | None = None
    body: list[str] = []

    def close() -> None:
        if current is not None:
            sections.append(StudySection(*current, "\n".join(body).strip()))

    for number, line in enumerate(text.splitlines(), start=1):
        if line.startswith("## "):
            close()
            body = []
            match = _HEADING.match(line)
            if match is None:
                problems.append(PackProblem(file, number, "section", "wants “## Title {#id}”"))
                current = None
            else:
                current = (match["id"], match["title"])
        elif current is not None:
            body.append(line)
        elif line.strip() and not problems:
            problems.append(PackProblem(file, number, "section", "text before the first section"))
    close()
    ids = [section.id for section in sections]
    twice = {i for i in ids if ids.count(i) > 1}
    problems += [PackProblem(file, 1, "section", f"id “{i}” is used twice") for i in twice]
    if not sections and not problems:
        problems.append(PackProblem(file, 1, "section", "the page has no section"))
    return sections, problems
