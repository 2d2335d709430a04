"""The number of the newest answer, in a small file beside the database.

SQLite leaves out, without a word, what a damaged write-ahead log no longer holds. The file lets the
server see afterwards that it had acknowledged more answers than the database remembers.
"""

from __future__ import annotations

import os
from pathlib import Path

from django.conf import settings
from django.db import connection

TABLE = "work_try"
DIGITS = 20


def _file() -> Path:
    return Path(f"{connection.settings_dict['NAME']}.answers")


def note_answer(number: int) -> None:
    """An answer of this number is stored and about to be acknowledged. Not forced to the disk: it
    is one write of a few bytes, and what matters is that it is another file."""
    if not settings.WATERMARK or connection.vendor != "sqlite":
        return
    file = os.open(_file(), os.O_RDWR | os.O_CREAT, 0o600)
    try:
        if number > int(os.pread(file, DIGITS, 0) or 0):
            os.pwrite(file, f"{number:0{DIGITS}d}".encode(), 0)
    finally:
        os.close(file)


def noted() -> int:
    """The newest answer that was acknowledged, 0 when none was noted."""
    try:
        text = _file().read_text()
    except FileNotFoundError:
        return 0
    return int(text) if text.isdecimal() else 0


def newest_stored() -> int:
    """The newest answer that the database remembers having stored, erased ones included."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT seq FROM sqlite_sequence WHERE name = %s", [TABLE])
        row = cursor.fetchone()
    return int(row[0]) if row else 0


def missing_answers() -> int:
    """How many acknowledged answers the database no longer holds."""
    if not settings.WATERMARK or connection.vendor != "sqlite":
        return 0
    return max(0, noted() - newest_stored())


def set_back(number: int) -> None:
    """Begin anew at a number, once what is missing was told."""
    _file().write_text(f"{number:0{DIGITS}d}")
