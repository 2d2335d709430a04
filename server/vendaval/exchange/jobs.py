"""Imports looked through and taken in, and packages written, in the background."""

from __future__ import annotations

from django_tasks import task

from vendaval.people.models import User

from . import imports, packs, qti_out
from .models import Export, ExportState, Import, ImportKind, ImportState


@task()
def look_through(number: int) -> None:
    """Look through a file's questions."""
    found = Import.objects.select_related("course__school", "topic", "by").filter(pk=number).first()
    if found is None or found.state != ImportState.LOOKING:
        return
    if found.kind == ImportKind.PACK:
        packs.look_through_pack(found)
    else:
        imports.look_through(found)


@task()
def store(number: int, by: int) -> None:
    """Take a file's questions into the course."""
    found = Import.objects.select_related("course__school", "topic", "by").filter(pk=number).first()
    if found is None or found.state != ImportState.STORING:
        return
    who = User.objects.get(pk=by)
    if found.kind == ImportKind.PACK:
        packs.store_pack(found, who)
    else:
        imports.store(found, who)


@task()
def write_export(number: int) -> None:
    """Write a package of a course's questions."""
    found = (
        Export.objects.select_related("course__school", "topic", "test").filter(pk=number).first()
    )
    if found is not None and found.state == ExportState.WRITING:
        qti_out.write(found)
