"""Copies of a person's data: asked for, made in the background into a file, fetched, removed."""

from __future__ import annotations

import json
import os
import secrets
from collections.abc import Iterator
from datetime import timedelta
from io import TextIOWrapper
from pathlib import Path
from typing import IO, Any
from zipfile import ZIP_DEFLATED, ZipFile

from django.apps import apps
from django.conf import settings
from django.db import IntegrityError, models, transaction
from django.db.models import Q
from django.utils.translation import gettext
from pydantic_core import to_jsonable_python

from vendaval.exams.models import PageImage
from vendaval.files.models import StoredFile
from vendaval.files.storing import pieces
from vendaval.groups.models import Enrolment
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.record.formats import ENDINGS, content_of
from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .models import Audience, DataCopy
from .tables import TABLES, Table
from .withheld import Held

KEPT_FOR = timedelta(days=1)
# A copy that is being made is younger than this; what is older was left by a kill.
LONGEST_MADE = timedelta(hours=6)
AT_A_TIME = 500


def ask_for_copy(
    person: User, by: User, audience: Audience, school: School | None = None
) -> DataCopy:
    """Note that a copy is wanted, or return the one that is being made: one at a time for each
    person. `privacy/jobs.py` makes it."""
    try:
        with transaction.atomic():
            row = DataCopy.objects.create(
                person=person, audience=audience, school=school, by=by, asked_at=clock.now()
            )
            audit(AuditKind.EXPORTED, account=person, by=by)
    except IntegrityError:
        return DataCopy.objects.get(person=person, audience=audience, school=school, ready_at=None)
    return row


def latest_copy(person: User, audience: Audience, school: School | None = None) -> DataCopy | None:
    """Return the copy that is being made or can be fetched, if there is one."""
    return _copies(person, audience, school).first()


def _copies(person: User, audience: Audience, school: School | None) -> models.QuerySet[DataCopy]:
    rows = DataCopy.objects.filter(person=person, audience=audience, school=school)
    return rows.filter(Q(gone_at=None) | Q(gone_at__gt=clock.now())).order_by("-pk")


def open_copy(person: User, audience: Audience, school: School | None = None) -> IO[bytes]:
    """Open the latest copy that is ready, also while another is made; NotFound when there is
    none."""
    row = _copies(person, audience, school).exclude(ready_at=None).first()
    if row is None:
        raise NotFound(gettext("There’s no copy to download yet. Ask for one first."))
    path = _folder() / row.file
    if not path.is_file():
        raise NotFound(gettext("This copy has been deleted. Ask for a new one."))
    return path.open("rb")


def write_copy(row: DataCopy) -> None:
    """Write a copy into its file. Done again it writes another file and leaves nothing half."""
    name = f"{row.pk}-{secrets.token_hex(8)}.zip"
    path, part = _folder() / name, _folder() / f"{name}.part"
    with os.fdopen(os.open(part, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600), "wb") as out:
        write_data(row.person, Audience(row.audience), out, row.school)
    size = part.stat().st_size
    part.replace(path)
    now = clock.now()
    row.file, row.size, row.ready_at, row.gone_at = name, size, now, now + KEPT_FOR
    row.save(update_fields=["file", "size", "ready_at", "gone_at"])
    remove_old()


def remove_old() -> int:
    """Remove copies whose day is over, and files that belong to none; how many files."""
    now = clock.now()
    DataCopy.objects.filter(gone_at__lte=now).delete()
    known = set(DataCopy.objects.exclude(file="").values_list("file", flat=True))
    before = (now - LONGEST_MADE).timestamp()
    removed = 0
    for path in _folder().iterdir():
        if path.name not in known and path.stat().st_mtime < before:
            path.unlink(missing_ok=True)
            removed += 1
    return removed


def remove_copies_of(person: User) -> None:
    """Remove every copy of somebody's data at once."""
    for row in DataCopy.objects.filter(person=person):
        if row.file:
            (_folder() / row.file).unlink(missing_ok=True)
        row.delete()


def _folder() -> Path:
    folder = Path(settings.COPIES)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    return folder


def write_data(
    person: User, audience: Audience, out: IO[bytes], school: School | None = None
) -> None:
    """Write a zip: everything that goes out about somebody, table by table, and for themselves
    each course's record in every format and their pages of paper. Nothing is held in memory whole.
    """
    with ZipFile(out, "w", ZIP_DEFLATED) as files:
        with files.open("everything.json", "w") as file:
            text = TextIOWrapper(file, encoding="utf-8")
            _write_json(person, audience, school, text)
            text.flush()
            text.detach()
        if audience is Audience.OFFICE:
            return
        mine = Enrolment.objects.filter(person=person).select_related("course", "person")
        for enrolment in mine:
            for kind, ending in ENDINGS.items():
                name = f"{enrolment.course.key}/record-{kind}.{ending}"
                files.writestr(name, content_of(kind, enrolment))
        pages = PageImage.objects.filter(page__attempt__enrolment__person=person)
        for image in pages.select_related("page").iterator(chunk_size=4):
            name = f"pages/attempt-{image.page.attempt_id}-page-{image.page.place}.jpg"
            files.writestr(name, bytes(image.full))
        for row in StoredFile.objects.filter(enrolment__person=person).exclude(arrived_at=None):
            with files.open(f"files/{row.pk}-{row.name}", "w") as sent:
                for piece in pieces(row):
                    sent.write(piece)


def _write_json(
    person: User, audience: Audience, school: School | None, out: TextIOWrapper
) -> None:
    held, between = Held.of(person), ""
    out.write(f'{{"account": {json.dumps(person.username)}, "kept": {{')
    for label, table in TABLES.items():
        if audience is Audience.OFFICE and table.office is None:
            continue
        rows = _rows(label, table, person, school if audience is Audience.OFFICE else None, held)
        one = next(rows, None)
        if one is None:
            continue
        out.write(f"{between}\n {json.dumps(label.lower())}: [")
        while one is not None:
            out.write(f"\n  {json.dumps(one, ensure_ascii=False)}")
            one = next(rows, None)
            out.write("," if one is not None else "]")
        between = ","
    out.write("\n}}\n")


def _rows(
    label: str, table: Table, person: User, school: School | None, held: Held
) -> Iterator[dict[str, Any]]:
    """What goes out of a table about somebody, in one query."""
    model = apps.get_model(label)
    whose = Q(**{table.path: person.pk})
    if table.also:
        whose |= Q(**{table.also: person.pk})
    wanted = whose & Q(**table.only)
    if school is not None and table.office:
        wanted &= Q(**{table.office: school})
    columns = [str(model._meta.get_field(name).attname) for name in table.out.split()]
    found = model._default_manager.filter(wanted).select_related(*table.needs)
    for row in found.order_by("pk").iterator(chunk_size=AT_A_TIME):
        plain = {name: to_jsonable_python(getattr(row, name)) for name in columns}
        shaped = plain if table.shape is None else table.shape(row, plain, held)
        if shaped is not None:
            yield shaped
