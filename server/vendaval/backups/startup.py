"""What is said when the server starts: whether the database still holds what was acknowledged."""

from __future__ import annotations

import logging
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, connection
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.shared.acknowledged import in_words, missing_at_all

from .backup import BackupRefused, back_up, backups

logger = logging.getLogger("vendaval.backups")


def say_what_is_missing() -> None:
    """Log what is wrong with the database and what to do; nothing when it is sound."""
    for what in faults():
        logger.error(what)


def read_courses() -> None:
    """Read every course once, for all processes that part from this one."""
    try:
        for course in Course.objects.all():
            course_bank(course)
    except DatabaseError as error:
        logger.error(f"We can’t read any course: {error}.")
    finally:
        connection.close()


def faults() -> list[str]:
    """What is wrong with the database, in sentences."""
    try:
        found = _faults()
    except DatabaseError as error:
        found = [gettext("We can’t read the database: {error}.").format(error=error)]
    finally:
        connection.close()
    if found:
        newest = next(iter(backups(settings.BACKUPS)), None)
        found.append(
            gettext("The newest backup is {newest}. “manage.py restore” brings it back.").format(
                newest=newest
            )
            if newest
            else gettext("There is no backup.")
        )
    return found


def _faults() -> list[str]:
    found = []
    if connection.vendor == "sqlite":
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA quick_check(1)")
            (state,) = cursor.fetchone()
        if state != "ok":
            found.append(gettext("The database is damaged: {state}.").format(state=state))
    missing = missing_at_all()
    if missing:
        what = in_words(missing)
        found.append(
            gettext("The database has lost something we had confirmed as saved: {what}.").format(
                what=what
            )
        )
    return found


def first_backup() -> None:
    """Make a backup where there is none, so that an installation has one from its first start."""
    if connection.vendor != "sqlite" or backups(settings.BACKUPS):
        return
    database = Path(str(connection.settings_dict["NAME"]))
    if not database.exists():
        return
    try:
        file, _ = back_up(database, settings.BACKUPS, settings.BACKUPS_KEPT)
    except BackupRefused as error:
        logger.error(f"There is no backup, and we can’t make one: {error.detail}")
        return
    logger.info(f"The first backup is {file}.")
