"""Resources: put into the store when a pack is loaded, found again when a section is opened."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import PurePosixPath

from django.db.models import QuerySet

from vendaval_core.packs.resources import ResourceModel

from .kept import stored_content
from .models import Course, Resource, Topic


def load_resources(
    topic: Topic, resources: Sequence[ResourceModel], content: Callable[[str], bytes]
) -> None:
    """Give a topic these resources, and no others. content: of a file beside its list."""

    def stored(name: str | None) -> str:
        return stored_content(content(name), PurePosixPath(name).suffix) if name else ""

    topic.resources.exclude(key__in=[one.key for one in resources]).delete()
    for position, one in enumerate(resources):
        topic.resources.update_or_create(
            key=one.key,
            defaults={
                "title": one.title,
                "kind": one.kind,
                "section": one.section,
                "minutes": one.minutes,
                "file": stored(one.file),
                "captions": stored(one.captions),
                "url": one.url or "",
                "position": position,
            },
        )


def resources_of(course: Course, topic: str, section: str) -> QuerySet[Resource]:
    """The resources of a study section, in order."""
    return Resource.objects.filter(
        topic__course=course, topic__key=topic, section=section
    ).order_by("position")
