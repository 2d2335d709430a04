"""Backups of the database while it serves, and the way back.

A backup is SQLite's own online copy: one moment of the database, taken beside readers and writers.
It is checked before it bears its name, and a note beside it says what is in it.
"""

from __future__ import annotations

import hashlib
import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from django.utils.translation import gettext
from pydantic import BaseModel, ValidationError

from vendaval.shared import clock
from vendaval.shared.acknowledged import Entry, entries, forget_old, missing_from, note_acknowledged
from vendaval.shared.errors import DomainError

NAMED = "vendaval-%Y%m%dT%H%M%SZ"
# A copy is as large as the database, and the database goes on growing beside it.
FREE_BESIDE = 1.2


class BackupNote(BaseModel):
    """What a backup holds. digest: SHA-256 of the file."""

    at: datetime
    answers: int
    digest: str


class BackupRefused(DomainError):
    """A backup cannot be made or used."""

    code = "backup_refused"


def back_up(database: Path, folder: Path, keep: int) -> tuple[Path, BackupNote]:
    """Copy a database that may be in use into a folder; the oldest beyond `keep` are removed."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    size = database.stat().st_size
    if shutil.disk_usage(folder).free < FREE_BESIDE * size:
        raise BackupRefused(
            gettext("{folder} has no room for another {size} MB.").format(
                folder=folder, size=size // 2**20 + 1
            )
        )
    now = clock.now().astimezone(UTC)
    file = folder / f"{now.strftime(NAMED)}.sqlite3"
    growing = file.with_suffix(".part")
    with closing(sqlite3.connect(database)) as source, closing(sqlite3.connect(growing)) as copy:
        source.backup(copy)
        copy.execute("PRAGMA journal_mode = DELETE")
    try:
        answers = _look(growing)
    except BackupRefused:
        growing.unlink()
        raise
    note = BackupNote(at=now, answers=answers, digest=_digest(growing))
    growing.chmod(0o600)
    _note_file(file).write_text(note.model_dump_json())
    growing.replace(file)
    for old in backups(folder)[keep:]:
        _note_file(old).unlink(missing_ok=True)
        old.unlink()
    forget_old()
    return file, note


def backups(folder: Path) -> list[Path]:
    """The backups of a folder, newest first."""
    return sorted(folder.glob("vendaval-*.sqlite3"), reverse=True)


def note_of(file: Path) -> BackupNote:
    """What a backup holds, checked against the file; BackupRefused when that is not as it was."""
    try:
        note = BackupNote.model_validate_json(_note_file(file).read_bytes())
    except (OSError, ValidationError) as error:
        raise BackupRefused(
            gettext("{file} has no note of its contents: {error}").format(file=file, error=error)
        ) from error
    if not file.is_file() or _digest(file) != note.digest:
        raise BackupRefused(gettext("{file} has been changed since it was made.").format(file=file))
    return note


def restore(file: Path, database: Path) -> tuple[BackupNote, Path | None, list[Entry]]:
    """Put a backup in the database's place. The server must not be running.

    Returns its note, where the database before was put, and what was acknowledged and is not in it.
    """
    note = note_of(file)
    _look(file)
    # What an earlier restoring lacked is named again: it is not in this one either.
    missing = missing_from(file, (one for one in entries() if one.kind != "restored"))
    aside = None
    if database.exists():
        aside = database.with_name(f"{database.name}.{clock.now().strftime('%Y%m%dT%H%M%S')}.aside")
        for suffix in ("", "-wal", "-shm"):
            part = Path(f"{database}{suffix}")
            if part.exists():
                part.replace(f"{aside}{suffix}")
    growing = database.with_name(f"{database.name}.part")
    shutil.copyfile(file, growing)
    growing.chmod(0o600)
    growing.replace(database)
    note_acknowledged("restored", 0)
    return note, aside, missing


def _look(file: Path) -> int:
    """Check a file whole; how many answers there are."""
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as opened:
            (found,) = opened.execute("PRAGMA integrity_check(1)").fetchone()
            broken = opened.execute("PRAGMA foreign_key_check").fetchone()
            if found != "ok" or broken is not None:
                raise BackupRefused(
                    gettext("{file} is damaged: {found}").format(
                        file=file, found=found if found != "ok" else broken
                    )
                )
            (answers,) = opened.execute("SELECT COUNT(*) FROM work_try").fetchone()
    except sqlite3.DatabaseError as error:
        raise BackupRefused(
            gettext("{file} is damaged: {error}").format(file=file, error=error)
        ) from error
    return int(answers)


def _note_file(file: Path) -> Path:
    return file.with_suffix(".json")


def _digest(file: Path) -> str:
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()
