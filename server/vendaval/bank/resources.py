"""Resources: put into the store when a pack is loaded, found again when a section is opened."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from pathlib import Path

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db.models import QuerySet

from vendaval_core.packs.resources import Resource as PackResource

from .models import Course, Resource, Topic


def _stored(path: Path | None) -> str:
    """Name in the store of a file's content; the same content is stored once."""
    if path is None:
        return ""
    content = path.read_bytes()
    name = f"resources/{hashlib.sha256(content).hexdigest()}{path.suffix}"
    if not default_storage.exists(name):
        default_storage.save(name, ContentFile(content))
    return name


def load_resources(topic: Topic, resources: Sequence[PackResource]) -> None:
    """Give a topic the resources of its pack, and no others."""
    topic.resources.exclude(key__in=[one.model.key for one in resources]).delete()
    for position, one in enumerate(resources):
        model = one.model
        topic.resources.update_or_create(
            key=model.key,
            defaults={
                "title": model.title,
                "kind": model.kind,
                "section": model.section,
                "minutes": model.minutes,
                "file": _stored(one.file),
                "captions": _stored(one.captions),
                "url": model.url or "",
                "position": position,
            },
        )


def resources_of(course: Course, topic: str, section: str) -> QuerySet[Resource]:
    """The resources of a study section, in order."""
    return Resource.objects.filter(
        topic__course=course, topic__key=topic, section=section
    ).order_by("position")
