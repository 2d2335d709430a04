"""A file on its way in: announced, sent in pieces, checked, drawn, and there."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from datetime import timedelta
from functools import partial

from django.db import transaction
from django.db.models import Sum
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval_core.items.files import (
    DRAWN,
    HEAD,
    FileKind,
    FileRules,
    begins_as_named,
    file_problem,
    kept_name,
    kind_of,
)

from .models import FileChunk, FilePage, StoredFile
from .schemas import CHUNK, FileIn, FileOut
from .sheets import Sheet, sheets_of

MOST_PAGES = 30
# A file that was begun and never came takes up room no longer than this.
GIVEN_UP_AFTER = timedelta(hours=12)


def announce(
    enrolment: Enrolment,
    wanted: FileIn,
    rules: FileRules,
    beside: Callable[[], Iterable[StoredFile]],
    row: StoredFile,
) -> StoredFile:
    """Make room for a file, or say why there is none. beside: those that are in its place already.
    row: says what it belongs to."""
    now = clock.now()
    with transaction.atomic():
        Enrolment.objects.select_for_update().get(pk=enrolment.pk)
        old = StoredFile.objects.filter(enrolment=enrolment, arrived_at=None)
        old.filter(made_at__lt=now - GIVEN_UP_AFTER).delete()
        held = [one.size for one in beside()]
        used = StoredFile.objects.filter(enrolment=enrolment).aggregate(sum=Sum("size"))["sum"]
        problem = file_problem(wanted.name, wanted.size, rules, held, used or 0)
        kind = kind_of(wanted.name)
        if problem is not None or kind is None:
            raise Unprocessable(problem or "", fields={"file": problem or ""})
        row.enrolment, row.part, row.name = enrolment, wanted.part, kept_name(wanted.name)
        row.kind, row.size, row.made_at = kind, wanted.size, now
        row.save()
    return row


def _expected(row: StoredFile) -> int:
    return -(-row.size // CHUNK)


def missing(row: StoredFile) -> list[int]:
    """Pieces of a file that have not come."""
    if row.arrived_at is not None:
        return []
    there = set(FileChunk.objects.filter(file=row).values_list("number", flat=True))
    return [number for number in range(_expected(row)) if number not in there]


def take_photograph(row: StoredFile, data: bytes) -> StoredFile:
    """A photograph that came as a whole, from a phone. row: announced before."""
    (sheet, *_) = sheets_of(data, 1, f"learner {row.enrolment.person_id}")
    return _arrive(row, [sheet])


def take_chunk(row: StoredFile, number: int, data: bytes) -> StoredFile:
    """Keep a piece; sent again it changes nothing. With the last one the file is checked and drawn:
    what is not as its name says is refused, and removed."""
    expected = min(CHUNK, row.size - number * CHUNK)
    if not 0 <= number < _expected(row) or len(data) != expected:
        says = gettext("This piece of the file isn’t as long as it should be. Send it again.")
        raise Unprocessable(says, fields={"file": says})
    if row.arrived_at is not None:
        return row
    FileChunk.objects.get_or_create(file=row, number=number, defaults={"data": data})
    if missing(row):
        return row
    head = bytes(FileChunk.objects.get(file=row, number=0).data[:HEAD])
    if not begins_as_named(row.name, head):
        row.delete()
        says = gettext("This file isn’t what its name says. Save it anew in the right format.")
        raise Unprocessable(says, fields={"file": says})
    return _arrive(row, _drawn(row) if row.kind in DRAWN else [])


def _drawn(row: StoredFile) -> list[Sheet]:
    """Pages of a picture or document. A picture that can't be drawn is refused; a document is kept
    to be saved, without pages."""
    try:
        return sheets_of(b"".join(pieces(row)), MOST_PAGES, f"learner {row.enrolment.person_id}")
    except Unprocessable:
        if row.kind == FileKind.PICTURE:
            row.delete()
            raise
        return []


def _arrive(row: StoredFile, sheets: Sequence[Sheet]) -> StoredFile:
    with transaction.atomic():
        still = StoredFile.objects.select_for_update().filter(pk=row.pk).first()
        if still is None:
            raise NotFound(gettext("We can’t find this file."))
        if still.arrived_at is not None:
            return still
        FilePage.objects.bulk_create(
            FilePage(file=row, place=place, full=sheet.full, small=sheet.small)
            for place, sheet in enumerate(sheets, 1)
        )
        row.drawn, row.arrived_at = len(sheets), clock.now()
        if row.kind == FileKind.PICTURE:
            _keep_drawn(row, sheets[0])
        row.save(update_fields=["name", "size", "drawn", "arrived_at"])
        person = row.enrolment.person_id
        transaction.on_commit(partial(note_acknowledged, "file", row.pk, person=person))
    return row


def _keep_drawn(row: StoredFile, sheet: Sheet) -> None:
    """A picture is kept as it was drawn: what a camera writes beside it, as where it was, is no
    part of an answer."""
    FileChunk.objects.filter(file=row).delete()
    row.name, row.size = f"{row.name.rpartition('.')[0]}.jpg", len(sheet.full)
    FileChunk.objects.bulk_create(
        FileChunk(file=row, number=n, data=sheet.full[n * CHUNK : (n + 1) * CHUNK])
        for n in range(_expected(row))
    )


def pieces(row: StoredFile) -> Iterator[bytes]:
    """A file piece by piece, so that no more than one is held in memory."""
    for number in range(_expected(row)):
        yield bytes(FileChunk.objects.values_list("data", flat=True).get(file=row, number=number))


def page(row: StoredFile, place: int, *, small: bool) -> bytes:
    """A page of a file as JPEG, or NotFound."""
    size = "small" if small else "full"
    found = FilePage.objects.filter(file=row, place=place).values_list(size, flat=True).first()
    if found is None:
        raise NotFound(gettext("We can’t find this page."))
    return bytes(found)


def file_out(row: StoredFile, base: str) -> FileOut:
    """A file as its browser sees it. base: the address under which this reader has files."""
    return FileOut(
        id=row.pk,
        part=row.part,
        name=row.name,
        kind=FileKind(row.kind),
        size=row.size,
        arrived=row.arrived_at,
        missing=missing(row),
        drawn=row.drawn,
        path=f"{base}/files/{row.pk}",
    )
