"""Two topics put together: the questions, pages and files of one move to another."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

import yaml

from vendaval_core.language import gettext

from ..errors import MergingError
from ..packs.schema import CourseModel
from .edits import rewritten
from .keys import free_key

Plain = Any
PAGE, RESOURCES = "study.md", "resources/list.yaml"
_SECTION = re.compile(r"^(## .+\{#)([a-z][a-z0-9-]*)(\}\s*)$", re.MULTILINE)


@dataclass(frozen=True, slots=True)
class TopicFolder:
    """A topic's own files but its questions, by their names in its folder."""

    key: str
    files: Mapping[str, bytes]


@dataclass(slots=True)
class Merged:
    """files: what the topic that stays has more or otherwise, by name. families: texts of
    questions that point to other sections now, by key."""

    files: dict[str, bytes] = field(default_factory=dict)
    families: dict[str, str] = field(default_factory=dict)


def merged(
    gone: TopicFolder, stays: TopicFolder, families: Mapping[str, tuple[str, str]]
) -> Merged:
    """Put a topic into another. families: topic and text of every question of the course, by key.

    Sections whose names both have get another. Raises MergingError where both have a file of a
    name with different content.
    """
    sections = _new_names(_page(gone), _page(stays))
    found = Merged()
    page = _SECTION.sub(lambda m: f"{m[1]}{sections[m[2]]}{m[3]}", _page(gone))
    found.files[PAGE] = f"{_page(stays).rstrip()}\n\n{page.lstrip()}".encode()
    for name, content in gone.files.items():
        if name in {PAGE, RESOURCES}:
            continue
        if stays.files.get(name, content) != content:
            says = gettext("Both topics have a file {name}, and they differ. Rename one first.")
            raise MergingError(says.format(name=name))
        if name not in stays.files:
            found.files[name] = content
    if RESOURCES in gone.files:
        found.files[RESOURCES] = _resources(gone, stays, sections)
    for key, (topic, text) in families.items():
        if topic != gone.key and f"{gone.key}#" not in text:
            continue
        new = _pointing(text, topic, gone.key, stays.key, sections)
        if new != text:
            found.families[key] = new
    return found


def _page(folder: TopicFolder) -> str:
    return folder.files.get(PAGE, b"").decode()


def _new_names(gone: str, stays: str) -> dict[str, str]:
    taken = {match[2] for match in _SECTION.finditer(stays)}
    names = {}
    for match in _SECTION.finditer(gone):
        names[match[2]] = free_key(match[2], "section", taken)
        taken.add(names[match[2]])
    return names


def _resources(gone: TopicFolder, stays: TopicFolder, sections: Mapping[str, str]) -> bytes:
    old = stays.files.get(RESOURCES, b"resources: []\n").decode()
    before = _read(old)
    taken = {one["key"] for one in before["resources"]}
    moved = []
    for one in _read(gone.files[RESOURCES].decode())["resources"]:
        key = free_key(one["key"], "resource", taken)
        taken.add(key)
        moved.append(one | {"key": key, "section": sections[one["section"]]})
    return rewritten(old, before | {"resources": [*before["resources"], *moved]}).encode()


def _read(text: str) -> dict[str, Plain]:
    return dict(yaml.load(text, Loader=yaml.CSafeLoader))


def _pointing(text: str, topic: str, gone: str, stays: str, sections: Mapping[str, str]) -> str:
    """A question's text with its study section as it is called now."""
    data = _read(text)
    where, _, section = str(data.get("study", "")).rpartition("#")
    if (where or topic) != gone or section not in sections:
        return text
    # The question moves with the page, or pointed to it from elsewhere.
    own = topic in {gone, stays}
    study = sections[section] if own else f"{stays}#{sections[section]}"
    return rewritten(text, data | {"study": study})


def without_topic(course: CourseModel, gone: str, stays: str, *, kept: bool) -> CourseModel:
    """Return a course in which a topic is gone, or closed where it is kept for what was learnt in
    it, and others build on the one that stays."""
    subjects = []
    earlier: set[str] = set()
    for subject in course.subjects:
        topics = []
        for topic in subject.topics:
            after = list(_after(topic.after, gone, stays, topic.key, earlier))
            topics.append(topic.model_copy(update={"after": after}))
            earlier.add(topic.key)
        if not kept:
            topics = [topic for topic in topics if topic.key != gone]
        closed = [
            topic.model_copy(update={"closed": True}) if topic.key == gone else topic
            for topic in topics
        ]
        if closed:
            subjects.append(subject.model_copy(update={"topics": closed}))
    return course.model_copy(update={"subjects": subjects})


def _after(after: list[str], gone: str, stays: str, own: str, earlier: set[str]) -> Iterator[str]:
    said = set()
    for key in after:
        wanted = stays if key == gone else key
        if wanted != own and wanted in earlier and wanted not in said:
            said.add(wanted)
            yield wanted
