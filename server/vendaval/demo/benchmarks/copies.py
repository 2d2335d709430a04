"""A copy of the demo's database, to be measured on."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings
from django.core.management.base import CommandError
from django.db import connection, connections
from django.test import override_settings


@contextmanager
def copied_database() -> Iterator[None]:
    """Work on a copy of the demo database; the database itself is not changed."""
    if not Path(str(settings.DATABASES["default"]["NAME"])).exists():
        raise CommandError("there is no demo database: run make demo first")
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "copy.sqlite3"
        with connection.cursor() as cursor:
            cursor.execute("VACUUM INTO %s", [str(copy)])
        connection.close()
        before = connections["default"].settings_dict["NAME"]
        connections["default"].settings_dict["NAME"] = str(copy)
        try:
            with override_settings(
                ALLOWED_HOSTS=["testserver"], LOGGING_CONFIG=None, ANSWER_PACE=None
            ):
                yield
        finally:
            connection.close()
            connections["default"].settings_dict["NAME"] = before
