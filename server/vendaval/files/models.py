"""Files that learners send: kept in pieces in the database, so that a lost connection loses no more
than a piece, and backups, restores and erasures need nothing beside it."""

from __future__ import annotations

from django.db import models

from vendaval.groups.models import Enrolment
from vendaval.work.models import Presentation


class StoredFile(models.Model):
    """A file of a learner. place: what it belongs to. presentation: the question it is an answer
    to; part: of it, or "" for working on paper beside the answer. size: in bytes, as it was
    announced. arrived_at: when all of it was there. drawn: how many of its pages can be looked
    at."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="files")
    place = models.CharField(max_length=8, default="answer")
    presentation = models.ForeignKey(
        Presentation, null=True, on_delete=models.CASCADE, related_name="files"
    )
    part = models.CharField(max_length=30, blank=True)
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=8)
    size = models.PositiveIntegerField()
    made_at = models.DateTimeField()
    arrived_at = models.DateTimeField(null=True)
    drawn = models.PositiveSmallIntegerField(default=0)


class FileChunk(models.Model):
    """A piece of a file. number: from 0."""

    file = models.ForeignKey(StoredFile, on_delete=models.CASCADE, related_name="chunks")
    number = models.PositiveSmallIntegerField()
    data = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["file", "number"], name="chunk_once")]


class FilePage(models.Model):
    """A page of a picture or document, upright and drawn anew, in full and small: JPEG. place: from
    1."""

    file = models.ForeignKey(StoredFile, on_delete=models.CASCADE, related_name="pages")
    place = models.PositiveSmallIntegerField()
    full = models.BinaryField()
    small = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["file", "place"], name="file_page_once")]
