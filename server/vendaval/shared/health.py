"""Whether what the server needs is there: a database that can be written, and room on the disk."""

from __future__ import annotations

import shutil
from dataclasses import dataclass

from django.conf import settings
from django.core.cache import cache
from django.db import DatabaseError
from django.utils.translation import gettext

from . import clock
from .acknowledged import in_words, missing_lately
from .models import CheckDone, Heartbeat

LEAST_FREE_BYTES = 200 * 1024 * 1024
REMEMBERED_SECONDS = 5


@dataclass(frozen=True, slots=True)
class Health:
    """What was found, each in a word or two: "ok", or what is wrong."""

    database: str
    disk: str

    @property
    def ok(self) -> bool:
        """Whether nothing is wrong."""
        return (self.database, self.disk) == ("ok", "ok")


def health() -> Health:
    """How things stand. What was found is remembered for a few seconds: looking writes a row."""
    found: Health | None = cache.get("health")
    if found is None:
        found = Health(_database(), _disk())
        cache.set("health", found, REMEMBERED_SECONDS)
    return found


def _database() -> str:
    """A database that can be read but not written takes no answers: so one row is written."""
    try:
        Heartbeat.objects.update_or_create(pk=1, defaults={"at": clock.now()})
    except DatabaseError as error:
        return gettext("cannot be written: {error}").format(error=error)
    missing = missing_lately()
    if missing:
        return gettext("{missing} confirmed as saved but missing; see docs/operating.md").format(
            missing=in_words(missing)
        )
    return "ok"


def _disk() -> str:
    free = shutil.disk_usage(settings.VAR).free
    if free < LEAST_FREE_BYTES:
        return gettext("{free} MB are left").format(free=free // 2**20)
    return "ok"


def note_check(what: str, well: bool, says: str) -> None:
    """Remember how a check or a chore went, in the place of its last time."""
    CheckDone.objects.update_or_create(
        what=what, defaults={"at": clock.now(), "well": well, "says": says[:300]}
    )
