"""A copy of the demo database to drive, and learners in it."""

from __future__ import annotations

import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.core.management.base import CommandError
from django.db import connection, connections
from django.test import Client

from vendaval.bank.models import Course
from vendaval.groups.actions import enrol
from vendaval.people.models import User

from .driving import Account


@contextmanager
def copy_of_the_demo() -> Iterator[Path]:
    """A copy of the demo database, which this process works on from then."""
    if not Path(str(settings.DATABASES["default"]["NAME"])).exists():
        raise CommandError("there is no demo database: run make demo first")
    with TemporaryDirectory() as folder:
        copy = Path(folder) / "copy.sqlite3"
        with connection.cursor() as cursor:
            cursor.execute("VACUUM INTO %s", [str(copy)])
        connection.close()
        connections["default"].settings_dict["NAME"] = str(copy)
        yield copy


def an_account(course: Course, number: int) -> tuple[User, Account]:
    """A learner with a session, made in the copy."""
    name = f"load-{number}-{secrets.token_hex(3)}"
    user = User.objects.create_user(name, display_name=f"Load {number}")
    enrol(user, course)
    client = Client()
    client.force_login(user)
    session = client.cookies[settings.SESSION_COOKIE_NAME].value
    return user, Account(session, secrets.token_hex(16))
