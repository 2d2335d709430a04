"""Whether any process has the database open: a lock that every process of the application shares,
and that whoever replaces the database must have alone."""

from __future__ import annotations

import fcntl
import os
from pathlib import Path

from django.conf import settings
from django.db import connection

_held: int | None = None


def _file() -> int:
    global _held
    if _held is None:
        path = Path(f"{connection.settings_dict['NAME']}.running")
        path.parent.mkdir(parents=True, exist_ok=True)
        _held = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
    return _held


def share_database() -> None:
    """Hold the lock with all others until this process, and all that part from it, have ended."""
    if settings.JOURNAL and connection.vendor == "sqlite":
        fcntl.flock(_file(), fcntl.LOCK_SH)


def have_alone() -> bool:
    """Whether no other process has the database; then none can open it until this one has ended."""
    try:
        fcntl.flock(_file(), fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True
