"""A journal beside the database of everything that was acknowledged to somebody.

SQLite leaves out, without a word, what a damaged write-ahead log no longer holds, and a restored
backup lacks what came after it. The journal lets the server see that it acknowledged more than the
database remembers, and say exactly what: one line of plain text for each thing, in a file a day.
It names rows and people by number and holds nothing of what was written.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.db import connection

from . import clock

Kind = Literal[
    "answer", "save", "hand-in", "reopened", "page", "file", "handed", "post", "talk", "restored"
]

TABLES: dict[Kind, str] = {
    "answer": "work_try",
    "save": "exams_answersofar",
    "hand-in": "exams_attempt",
    "page": "exams_page",
    "file": "files_storedfile",
    "handed": "assigning_handin",
    "post": "threads_post",
    "talk": "threads_talkpost",
}
WORDS: dict[Kind, tuple[str, str]] = {
    "answer": ("answer", "answers"),
    "save": ("saved change in a test", "saved changes in tests"),
    "hand-in": ("hand-in", "hand-ins"),
    "page": ("page of paper", "pages of paper"),
    "file": ("file", "files"),
    "handed": ("work handed in", "pieces of work handed in"),
    "post": ("post in a thread", "posts in threads"),
    "talk": ("message to or from a guardian", "messages to or from guardians"),
}
KEPT_FOR = timedelta(days=14)
TAIL_BYTES = 8_000
AT_A_TIME = 500


@dataclass(frozen=True, slots=True)
class Entry:
    """Something acknowledged. number: of its row. value: a save's counter. person: whose it is."""

    at: datetime
    kind: Kind
    number: int
    value: int
    person: int


def note_acknowledged(kind: Kind, number: int, *, value: int = 0, person: int = 0) -> None:
    """Note what is stored and about to be acknowledged. One short write at the end of the file, not
    forced to the disk: what matters is that it is another file than the database."""
    if not settings.JOURNAL or connection.vendor != "sqlite":
        return
    at = clock.now().astimezone(UTC)
    line = f"{at:%Y-%m-%dT%H:%M:%S.%fZ} {kind} {number} {value} {person}\n"
    file = os.open(_file(at), os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
    try:
        os.write(file, line.encode())
    finally:
        os.close(file)


def _base() -> Path:
    return Path(str(connection.settings_dict["NAME"]))


def _file(day: datetime) -> Path:
    base = _base()
    return base.with_name(f"{base.name}.acknowledged-{day:%Y%m%d}")


def _files() -> list[Path]:
    base = _base()
    return sorted(base.parent.glob(f"{base.name}.acknowledged-*"))


def entries(since: datetime | None = None) -> Iterator[Entry]:
    """What was acknowledged, in order, from a moment on."""
    for file in _files():
        if since is None or file.name[-8:] >= f"{since.astimezone(UTC):%Y%m%d}":
            with file.open() as lines:
                yield from (e for e in map(_entry, lines) if e and (not since or e.at >= since))


def _latest() -> list[Entry]:
    """The newest entries, from a bounded piece of the newest file."""
    newest = next(reversed(_files()), None)
    if newest is None:
        return []
    with newest.open("rb") as opened:
        opened.seek(max(0, newest.stat().st_size - TAIL_BYTES))
        lines = opened.read().decode("utf-8", "replace").splitlines(keepends=True)
    return [entry for entry in map(_entry, lines) if entry]


def _entry(line: str) -> Entry | None:
    """A line; None for one that was cut off."""
    words = line.split()
    if not line.endswith("\n") or len(words) != 5:
        return None
    try:
        at = datetime.fromisoformat(words[0])
        number, value, person = (int(word) for word in words[2:])
    except ValueError:
        return None
    return Entry(at, words[1], number, value, person)  # type: ignore[arg-type]


def missing_from(database: Path, noted: Iterable[Entry]) -> list[Entry]:
    """Return what was acknowledged and is not in a database, after its latest restoring. What was
    erased since is not missing: its number was given once."""
    waiting: dict[tuple[Kind, int], Entry] = {}
    for entry in noted:
        if entry.kind == "restored":
            waiting.clear()
        elif entry.kind == "reopened":
            waiting.pop(("hand-in", entry.number), None)
        else:
            before = waiting.get((entry.kind, entry.number))
            if before is None or entry.value >= before.value:
                waiting[entry.kind, entry.number] = entry
    if not waiting:
        return []
    with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True, timeout=20)) as opened:
        given = dict(opened.execute("SELECT name, seq FROM sqlite_sequence").fetchall())
        missing = [
            entry
            for entry in waiting.values()
            if entry.kind in TABLES and entry.number > given.get(TABLES[entry.kind], 0)
        ]
        known = [entry for entry in waiting.values() if entry not in missing]
        missing += _older(opened, [e for e in known if e.kind == "save"])
        missing += _not_handed_in(opened, [e for e in known if e.kind == "hand-in"])
    return sorted(missing, key=lambda entry: entry.at)


def _older(opened: sqlite3.Connection, saves: list[Entry]) -> list[Entry]:
    kept = _by_number(opened, "SELECT id, counter FROM exams_answersofar", saves)
    return [entry for entry in saves if entry.number in kept and kept[entry.number] < entry.value]


def _not_handed_in(opened: sqlite3.Connection, given: list[Entry]) -> list[Entry]:
    asked = "SELECT id, handed_in_at IS NOT NULL FROM exams_attempt"
    kept = _by_number(opened, asked, given)
    return [entry for entry in given if kept.get(entry.number) == 0]


def _by_number(opened: sqlite3.Connection, select: str, asked: list[Entry]) -> dict[int, int]:
    found: dict[int, int] = {}
    for start in range(0, len(asked), AT_A_TIME):
        numbers = ",".join(str(entry.number) for entry in asked[start : start + AT_A_TIME])
        found |= dict(opened.execute(f"{select} WHERE id IN ({numbers})").fetchall())
    return found


def missing_lately() -> list[Entry]:
    """Return what of the newest entries the database does not hold: cheap enough for a look at the
    health every few seconds."""
    if not settings.JOURNAL or connection.vendor != "sqlite":
        return []
    return missing_from(_base(), _latest())


def missing_at_all() -> list[Entry]:
    """Return everything in the journal that the database does not hold."""
    if not settings.JOURNAL or connection.vendor != "sqlite":
        return []
    return missing_from(_base(), entries())


def in_words(missing: Iterable[Entry]) -> str:
    """How many of what, as “3 answers and 1 hand-in”."""
    counts: dict[Kind, int] = {}
    for entry in missing:
        counts[entry.kind] = counts.get(entry.kind, 0) + 1
    said = [f"{n} {WORDS[kind][n != 1]}" for kind, n in counts.items()]
    return " and ".join([", ".join(said[:-1]), said[-1]] if len(said) > 1 else said)


def forget_old() -> None:
    """Remove files of the journal that no backup could need any more."""
    before = f"{(clock.now() - KEPT_FOR).astimezone(UTC):%Y%m%d}"
    for file in _files():
        if file.name[-8:] < before:
            file.unlink(missing_ok=True)
