"""A study page cut into its sections and put together again, the same where nothing changed."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from ..packs.study import HEADING
from .keys import free_key


@dataclass(frozen=True, slots=True)
class PageSection:
    """A section as its file has it. key: "" for a new one. body: Markdown with its drawing."""

    key: str
    title: str
    body: str


def sections_in(text: str) -> list[PageSection]:
    """Return the sections of a page that reads without problems."""
    return [section for section, _ in _cut(text)]


def page_with(text: str, sections: Sequence[PageSection]) -> str:
    """Return a page with other sections; those that stayed keep their text as it was written. New
    ones get a key of their title that no other has."""
    before = {section.key: (section, raw) for section, raw in _cut(text)}
    taken = {section.key for section in sections}
    blocks = []
    for section in sections:
        known = before.get(section.key)
        if known is not None and known[0] == section:
            blocks.append(known[1])
            continue
        key = section.key or free_key(section.title, "section", taken)
        taken.add(key)
        blocks.append(f"## {section.title} {{#{key}}}\n\n{section.body.strip()}\n")
    was = [raw for _, raw in before.values()]
    if blocks == was:
        return text
    out = [f"{block.rstrip()}\n\n" for block in blocks[:-1]]
    # The last one ends as it did; one that stood before others has the space to them no more.
    out += [one if was[-1:] == [one] else f"{one.rstrip()}\n" for one in blocks[-1:]]
    return "".join(out)


def with_text(body: str, text: str) -> str:
    """Return a section's body with another text in it; its drawing stands at the end."""
    drawings = [line for line in body.splitlines() if line.startswith("![")]
    return "\n\n".join([text.strip(), *drawings])


def _cut(text: str) -> list[tuple[PageSection, str]]:
    found: list[tuple[PageSection, str]] = []
    for raw in re.split(r"^(?=## )", text, flags=re.MULTILINE):
        heading, _, body = raw.partition("\n")
        match = HEADING.match(heading)
        if match is not None:
            found.append((PageSection(match["id"], match["title"], body.strip()), raw))
    return found
