"""What must hold of a course's subjects and topics, whoever changes them."""

from __future__ import annotations

from collections.abc import Iterator

from vendaval_core.language import gettext

from .schema import CourseModel


def course_faults(course: CourseModel) -> Iterator[tuple[tuple[str | int, ...], str]]:
    """Yield what is wrong with a course: where, as a path in course.yaml, and what. A topic builds
    only on topics before it, so that none ever waits for itself."""
    earlier: set[str] = set()
    subjects: set[str] = set()
    for s, subject in enumerate(course.subjects):
        if subject.key in subjects:
            says = gettext("subject “{subject}” is there twice").format(subject=subject.key)
            yield ("subjects", s, "key"), says
        subjects.add(subject.key)
        for t, topic in enumerate(subject.topics):
            path = ("subjects", s, "topics", t)
            if topic.key in earlier:
                says = gettext("topic “{topic}” is there twice").format(topic=topic.key)
                yield (*path, "key"), says
            for after in sorted(set(topic.after) - earlier):
                says = gettext("“{after}” must be a topic before this one").format(after=after)
                yield (*path, "after"), says
            earlier.add(topic.key)
