"""A course as the files of a pack: what is kept of each, by whom it was changed, and all of them
written into a folder again, byte for byte."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path, PurePosixPath

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db.models import Q, QuerySet

from vendaval.people.models import User
from vendaval_core.authoring.edits import written
from vendaval_core.packs.topic_files import KeptFiles

from . import models

MOST_TEXT = 1_000_000
# Families that are among a course's files: those that are asked, tried out, or stopped for now.
IN_FILES = (Q(live=True) | Q(rehearsal=True) | Q(stopped__isnull=False)) & Q(collection=None)


@dataclass(frozen=True, slots=True)
class Kept:
    """A file as it is now. stored: its name in the store, for what is no text. in_pack: what it
    was like when the pack was last loaded, None if the pack never had it. gone: whether it was
    taken out here."""

    text: str
    stored: str
    in_pack: bytes | None
    gone: bool = False

    @property
    def content(self) -> bytes:
        """Its bytes."""
        return _content(self.text, self.stored)


def content_of(row: models.CourseFile) -> bytes:
    """The bytes of a file."""
    return _content(row.text, row.stored)


def _content(text: str, stored: str) -> bytes:
    if not stored:
        return text.encode()
    with default_storage.open(stored) as file:
        return bytes(file.read())


def family_path(topic: str, key: str, *, rehearsal: bool = False) -> str:
    """Where a family's file lies in its pack."""
    return f"rehearsal/{key}.yaml" if rehearsal else f"topics/{topic}/{key}.yaml"


def file_row(
    course: models.Course,
    path: str,
    content: bytes,
    at: datetime,
    *,
    by: User | None = None,
    why: str = "",
) -> models.CourseFile:
    """The row that puts a file's content in force once it is stored. by: who changed it here,
    nobody for a pack's."""
    try:
        text, stored = (content.decode() if len(content) <= MOST_TEXT else ""), ""
    except UnicodeDecodeError:
        text = ""
    if text.encode() != content:
        stored = stored_content(content, PurePosixPath(path).suffix)
    return models.CourseFile(
        course=course,
        path=path,
        text="" if stored else text,
        stored=stored,
        at=at,
        by=by,
        why=why,
        in_pack=by is None,
    )


def stored_content(content: bytes, suffix: str) -> str:
    """Name in the store of a file's content; the same content is stored once."""
    name = f"resources/{hashlib.sha256(content).hexdigest()}{suffix}"
    if not default_storage.exists(name):
        default_storage.save(name, ContentFile(content))
    return name


def current_files(course: models.Course, under: str = "") -> dict[str, models.CourseFile]:
    """The rows in force by path, without those that are gone. under: a folder, with its slash."""
    rows = models.CourseFile.objects.filter(course=course, path__startswith=under)
    newest = {row.path: row for row in rows.order_by("pk")}
    return {path: row for path, row in sorted(newest.items()) if not row.gone}


def topic_files(course: models.Course, topic: str) -> KeptFiles:
    """The figures and shared texts of a topic."""
    folder = f"topics/{topic}/"
    rows = current_files(course, folder)
    return KeptFiles({path[len(folder) :]: row.text for path, row in rows.items()})


def text_of(revision: models.FamilyRevision) -> str:
    """The file of a revision; written anew for one that was loaded before files were kept."""
    source = getattr(revision, "source", None)
    return written(_as_mappings(revision.data)) if source is None else str(source.text)


def _as_mappings(data: models.FamilyData) -> dict[str, object]:
    plain = data.model_dump(mode="json")
    if isinstance(plain.get("variables"), list):
        plain["variables"] = dict(plain["variables"])
    return plain


def kept_files(course: models.Course) -> dict[str, Kept]:
    """Every file of a course by path, families that are still asked among them."""
    return dict(sorted([*_others(course), *_families(course)]))


def _others(course: models.Course) -> Iterator[tuple[str, Kept]]:
    rows = models.CourseFile.objects.filter(course=course).order_by("pk")
    packed: dict[str, bytes] = {}
    newest: dict[str, models.CourseFile] = {}
    for row in rows:
        newest[row.path] = row
        if row.in_pack:
            packed[row.path] = b"" if row.gone else content_of(row)
    for path, row in newest.items():
        yield path, Kept(row.text, row.stored, packed.get(path), row.gone)


def _families(course: models.Course) -> Iterator[tuple[str, Kept]]:
    packed: dict[int, str] = dict(_sources(course).filter(in_pack=True).values_list(*_TEXTS))
    rows = course.families.filter(IN_FILES).select_related("topic", "latest__source")
    for row in rows.exclude(latest=None):
        assert row.latest is not None
        path = family_path(row.topic.key, row.key, rehearsal=row.rehearsal)
        text = text_of(row.latest)
        # Loaded before files were kept, so it is as its pack had it.
        base = packed.get(row.pk) if hasattr(row.latest, "source") else text
        yield path, Kept(text, "", None if base is None else base.encode())


_TEXTS = ("revision__family_id", "text")


def _sources(course: models.Course) -> QuerySet[models.RevisionSource]:
    rows = models.RevisionSource.objects.filter(revision__family__course=course)
    return rows.order_by("revision__number")


def write_files(files: Mapping[str, Kept], folder: Path) -> None:
    """Write a course's files into a folder."""
    for path, kept in files.items():
        if kept.gone:
            continue
        target = folder / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(kept.content)
