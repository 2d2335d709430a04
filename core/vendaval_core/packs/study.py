"""Study pages: Markdown cut into sections by `## Title {#id}`, each with at most one drawing."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from vendaval_core.language import gettext

from ..errors import ExpressionError
from ..items.drawn import Figure, Picture
from ..items.pictures import make_picture
from .checks import picture_faults
from .located import PackProblem

HEADING = re.compile(r"^## +(?P<title>.+?) +\{#(?P<id>[a-z][a-z0-9-]*)\}\s*$")
_DRAWING = re.compile(r"^!\[(?P<alt>[^\]]+)\]\((?P<name>[\w-]+\.(?:svg|yaml))\)\s*$")
# Slow reading, as of something to be learnt (common practice, no published source).
WORDS_PER_MINUTE = 150


@dataclass(frozen=True, slots=True)
class StudySection:
    """One section: id families point to, title, Markdown, a drawing, and minutes to read."""

    id: str
    title: str
    markdown: str
    figure: Picture | None = None

    @property
    def minutes(self) -> int:
        """Whole minutes to read it, at least 1."""
        return max(1, round(len(self.markdown.split()) / WORDS_PER_MINUTE))


def read_study_page(
    text: str, file: str, drawing: Callable[[str, str], Figure | list[PackProblem]]
) -> tuple[list[StudySection], list[PackProblem]]:
    """Return the sections of a page in order, and what is wrong with it.

    drawing: returns a figure for its file's name and description, or what is wrong with that file.
    """
    sections: list[StudySection] = []
    problems: list[PackProblem] = []
    figure: Picture | None = None
    current: tuple[str, str] | None = None
    body: list[str] = []

    def close() -> None:
        if current is not None:
            sections.append(StudySection(*current, "\n".join(body).strip(), figure))

    def draw(number: int, alt: str, name: str) -> None:
        nonlocal figure
        found = drawing(name, alt)
        if isinstance(found, list):
            problems.extend(found)
            return
        wrong = [gettext("a section can have only one drawing")] if figure is not None else []
        try:
            figure = make_picture(found, {})
        except ExpressionError as error:
            wrong.append(str(error))
        else:
            wrong += picture_faults(figure)
        problems.extend(PackProblem(file, number, "figure", what) for what in wrong)

    for number, line in enumerate(text.splitlines(), start=1):
        if line.startswith("## "):
            close()
            body, figure = [], None
            match = HEADING.match(line)
            if match is None:
                problems.append(
                    PackProblem(file, number, "section", gettext("wants “## Title {#id}”"))
                )
                current = None
            else:
                current = (match["id"], match["title"])
        elif current is not None:
            found = _DRAWING.match(line)
            if found:
                draw(number, found["alt"], found["name"])
            elif "![" in line:
                what = gettext("needs “![what it shows](name.svg)” on its own line")
                problems.append(PackProblem(file, number, "figure", what))
            else:
                body.append(line)
        elif line.strip() and not problems:
            problems.append(
                PackProblem(file, number, "section", gettext("text before the first section"))
            )
    close()
    ids = [section.id for section in sections]
    twice = {i for i in ids if ids.count(i) > 1}
    problems += [
        PackProblem(file, 1, "section", gettext("id “{i}” is used twice").format(i=i))
        for i in twice
    ]
    if not sections and not problems:
        problems.append(PackProblem(file, 1, "section", gettext("the page has no section")))
    return sections, problems
