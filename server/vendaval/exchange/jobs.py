"""Imports looked through and taken in, in the background."""

from __future__ import annotations

from django_tasks import task

from vendaval.people.models import User

from . import imports
from .models import Import, ImportState


@task()
def look_through(number: int) -> None:
    """Look through a file's questions."""
    found = Import.objects.select_related("course", "topic").filter(pk=number).first()
    if found is not None and found.state == ImportState.LOOKING:
        imports.look_through(found)


@task()
def store(number: int, by: int) -> None:
    """Take a file's questions into the course."""
    found = Import.objects.select_related("course", "topic").filter(pk=number).first()
    if found is not None and found.state == ImportState.STORING:
        imports.store(found, User.objects.get(pk=by))
