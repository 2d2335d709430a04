"""Backups beside sixteen who write, damage, and the way back. The databases are small files of
their own, made as the application's is; the served application is driven in e2e/test_backup.py."""

from __future__ import annotations

import shutil
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.db import connection
from django.test import TestCase, override_settings

from vendaval.keeping import starting
from vendaval.keeping.backup import BackupRefused, back_up, backups, note_of, restore
from vendaval.shared import watermark

TABLE = "CREATE TABLE work_try (id INTEGER PRIMARY KEY AUTOINCREMENT, said TEXT)"


@contextmanager
def a_database() -> Iterator[Path]:
    """A database in write-ahead mode, which the watermark stands beside."""
    with TemporaryDirectory() as folder:
        file = Path(folder) / "a.sqlite3"
        with closing(sqlite3.connect(file)) as opened:
            opened.execute("PRAGMA journal_mode = WAL")
            opened.execute(TABLE)
        beside = patch.object(watermark, "_file", lambda: Path(f"{file}.answers"))
        with override_settings(WATERMARK=True, BACKUPS=Path(folder) / "backups"), beside:
            yield file


def write(file: Path, how_many: int, stored: list[int]) -> None:
    with closing(sqlite3.connect(file, timeout=20)) as opened:
        for _ in range(how_many):
            with opened:
                number = opened.execute("INSERT INTO work_try (said) VALUES ('x')").lastrowid
            assert number is not None
            watermark.note_answer(number)
            stored.append(number)


def numbers(file: Path) -> set[int]:
    with closing(sqlite3.connect(file)) as opened:
        return {row[0] for row in opened.execute("SELECT id FROM work_try")}


class BackupTests(TestCase):
    def test_sixteen_write_while_it_is_made(self) -> None:
        with a_database() as file:
            stored: list[int] = []
            writers = [threading.Thread(target=write, args=(file, 20, stored)) for _ in range(16)]
            for writer in writers:
                writer.start()
            before = set(stored)
            backup, note = back_up(file, file.parent / "backups", keep=3)
            for writer in writers:
                writer.join()
            self.assertEqual(note_of(backup), note)
            with file.open("r+b") as damaged:
                damaged.write(b"damage" * 1000)
            told, aside, after = restore(backup, file)
            self.assertLessEqual(before, numbers(file))
            self.assertEqual((told, len(numbers(file))), (note, note.answers))
            self.assertEqual(after, 320 - note.newest)
            assert aside is not None
            self.assertEqual(aside.read_bytes()[:6], b"damage")
            self.assertEqual(watermark.noted(), note.newest)

    def test_a_log_that_is_lost_is_told(self) -> None:
        with a_database() as file:
            keeper = sqlite3.connect(file)
            write(file, 3, [])
            keeper.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            write(file, 4, [])
            without_log = file.with_name("b.sqlite3")
            shutil.copyfile(file, without_log)
            held = len(numbers(without_log))
            keeper.close()
            self.assertEqual(held, 3)
            with patch.object(watermark, "newest_stored", lambda: held):
                self.assertEqual(watermark.missing_answers(), 4)
                told = starting.faults()
            self.assertEqual(
                told,
                [
                    "4 answers were acknowledged that the database does not hold.",
                    "There is no backup.",
                ],
            )

    def test_only_so_many_are_kept_and_only_sound_ones_used(self) -> None:
        with a_database() as file:
            folder = file.parent / "backups"
            with self.assertRaisesRegex(BackupRefused, "no note"):
                note_of(folder / "none.sqlite3")
            with patch("vendaval.keeping.backup.NAMED", "vendaval-%Y%m%d-%H%M%S-%f"):
                made = [back_up(file, folder, keep=2)[0] for _ in range(4)]
            self.assertEqual(backups(folder), made[:1:-1])
            with made[-1].open("ab") as longer:
                longer.write(b"x")
            with self.assertRaisesRegex(BackupRefused, "is not as it was made"):
                restore(made[-1], file)
            self.assertEqual(numbers(file), set())

    def test_what_is_damaged_is_not_kept_as_a_backup(self) -> None:
        with a_database() as file:
            write(file, 2000, [])
            with closing(sqlite3.connect(file)) as opened:
                opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            with file.open("r+b") as damaged:
                damaged.seek(2 * 4096 + 8)
                damaged.write(b"\xff" * 40)
            with self.assertRaisesRegex(BackupRefused, "damaged"):
                back_up(file, file.parent / "backups", keep=2)
            self.assertEqual(backups(file.parent / "backups"), [])

    def test_the_newest_answer_is_remembered(self) -> None:
        with a_database():
            for number in (5, 12, 7):
                watermark.note_answer(number)
            self.assertEqual(watermark.noted(), 12)
        self.assertEqual(connection.vendor, "sqlite")
