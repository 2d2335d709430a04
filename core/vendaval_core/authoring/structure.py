"""A course's subjects and topics as their authors change them: the file, and what changed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import yaml

from vendaval_core.language import gettext

from ..packs.constants import CONSTANTS
from ..packs.schema import CourseModel, TopicModel
from .edits import rewritten, written
from .keys import as_key

Plain = Any
FIRST_SECTION = "start"
# What is usual need not stand in a file.
USUAL = TopicModel(key="any", title="any")


def first_page(title: str) -> str:
    """The study page of a new topic, whose one section is still to be written."""
    says = gettext("Nothing has been written here yet.")
    return f"## {title} {{#{FIRST_SECTION}}}\n\n{says}\n"


def new_course(key: str, title: str, school: str, subject: str, topic: str) -> dict[str, str]:
    """The files of a new course with one topic, by their paths in its pack."""
    s, t = as_key(subject, "subject"), as_key(topic, "topic")
    subjects = [{"key": s, "title": subject, "topics": [{"key": t, "title": topic}]}]
    data = {"key": key, "title": title, "school": school, "subjects": subjects}
    return {"course.yaml": written(data), study_path(t): first_page(topic)}


def study_path(topic: str) -> str:
    """Where a topic's study page lies in its pack."""
    return f"topics/{topic}/study.md"


def with_structure(text: str, course: CourseModel) -> str:
    """Return course.yaml with another title and other subjects and topics in it; what nobody
    changed stays as it was written. Raises UnwritableError as `rewritten` does."""
    data = _plain(text)
    known = {topic["key"]: topic for one in data["subjects"] for topic in one["topics"]}
    subjects = [
        {
            "key": subject.key,
            "title": subject.title,
            "topics": [_topic(known.get(topic.key, {}), topic) for topic in subject.topics],
        }
        for subject in course.subjects
    ]
    wanted = data | {"title": course.title, "subjects": subjects}
    if "constants" in data or course.constants != list(CONSTANTS):
        wanted["constants"] = [_short(one) for one in course.constants]
    return rewritten(text, wanted)


def _short(number: float) -> float | int:
    return int(number) if number.is_integer() else number


def _plain(text: str) -> dict[str, Plain]:
    return dict(yaml.load(text, Loader=yaml.CSafeLoader))


def _topic(known: Mapping[str, Plain], topic: TopicModel) -> dict[str, Plain]:
    """A topic as it stands in the file: fields in their old order, then what is new and unusual."""
    wanted = topic.model_dump()
    new = [
        name
        for name, value in wanted.items()
        if name not in known and value != getattr(USUAL, name)
    ]
    return {name: wanted[name] for name in (*known, *new)}


def structure_changes(before: CourseModel, after: CourseModel) -> list[str]:
    """Return what differs between two structures of a course, in sentences."""
    return list(_changes(before, after))


def _changes(before: CourseModel, after: CourseModel) -> Iterator[str]:
    if before.title != after.title:
        yield gettext("The course is called “{title}”.").format(title=after.title)
    if before.constants != after.constants:
        numbers = ", ".join(f"{one:g}" for one in after.constants)
        yield gettext("Numbers a formula may have: {numbers}.").format(numbers=numbers)
    old_subjects = {one.key: one.title for one in before.subjects}
    for subject in after.subjects:
        called = old_subjects.get(subject.key)
        if called is None:
            yield gettext("New subject: {title}.").format(title=subject.title)
        elif called != subject.title:
            yield gettext("{was} is called “{title}”.").format(was=called, title=subject.title)
    old = {topic.key: (s, topic) for s, topic in _topics(before)}
    new = {topic.key: (s, topic) for s, topic in _topics(after)}
    titles = {key: topic.title for key, (_, topic) in (old | new).items()}
    for key, (place, topic) in new.items():
        if key not in old:
            yield gettext("New topic: {title}.").format(title=topic.title)
        else:
            yield from _topic_changes(old[key][1], topic, titles, moved=old[key][0] != place)
    for key in old.keys() - new.keys():
        yield gettext("Removed: {title}.").format(title=titles[key])
    if [key for key in old if key in new] != [key for key in new if key in old]:
        yield gettext("The order changes.")


def _topics(course: CourseModel) -> Iterator[tuple[str, TopicModel]]:
    return ((subject.key, topic) for subject in course.subjects for topic in subject.topics)


def _topic_changes(
    was: TopicModel, topic: TopicModel, titles: Mapping[str, str], *, moved: bool
) -> Iterator[str]:
    title = topic.title
    if was.title != title:
        yield gettext("{was} is called “{title}”.").format(was=was.title, title=title)
    if moved:
        yield gettext("{title} moves to another subject.").format(title=title)
    if was.closed != topic.closed:
        says = gettext("{title} is closed.") if topic.closed else gettext("{title} opens again.")
        yield says.format(title=title)
    if was.target != topic.target:
        says = gettext("{title}: the target is {new}, not {old}.")
        yield says.format(title=title, new=f"{topic.target:g}", old=f"{was.target:g}")
    if was.importance != topic.importance:
        says = gettext("{title}: the importance is {new}, not {old}.")
        yield says.format(title=title, new=f"{topic.importance:g}", old=f"{was.importance:g}")
    if set(was.after) != set(topic.after):
        names = ", ".join(titles[key] for key in topic.after) or gettext("nothing")
        yield gettext("{title} builds on {names}.").format(title=title, names=names)


def course_called(text: str, key: str, title: str) -> str:
    """Return course.yaml with another key and title in it, and nothing else changed."""
    return rewritten(text, _plain(text) | {"key": key, "title": title})
