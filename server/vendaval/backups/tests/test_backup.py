"""Backups beside sixteen who write, damage, and the way back. The databases are small files of
their own, made as the application's is; the served application is driven in e2e/test_backup.py."""

from __future__ import annotations

import fcntl
import shutil
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.core.management.base import CommandError
from django.db import connection
from django.test import TestCase, override_settings

from vendaval.backups import startup as starting
from vendaval.backups.backup import BackupRefused, back_up, backups, note_of, restore
from vendaval.shared import acknowledged, running
from vendaval.shared.acknowledged import in_words, missing_at_all, missing_lately, note_acknowledged
from vendaval.work.tests.builders import run_command

TABLES = (
    "CREATE TABLE work_try (id INTEGER PRIMARY KEY AUTOINCREMENT, said TEXT)",
    "CREATE TABLE exams_answersofar (id INTEGER PRIMARY KEY AUTOINCREMENT, counter INTEGER)",
    "CREATE TABLE exams_attempt (id INTEGER PRIMARY KEY AUTOINCREMENT, handed_in_at TEXT)",
    "CREATE TABLE exams_page (id INTEGER PRIMARY KEY AUTOINCREMENT, place INTEGER)",
)


@contextmanager
def a_database() -> Iterator[Path]:
    """A database in write-ahead mode, which the watermark stands beside."""
    with TemporaryDirectory() as folder:
        file = Path(folder) / "a.sqlite3"
        with closing(sqlite3.connect(file)) as opened:
            opened.execute("PRAGMA journal_mode = WAL")
            for table in TABLES:
                opened.execute(table)
        beside = patch.object(acknowledged, "_base", lambda: file)
        with override_settings(JOURNAL=True, BACKUPS=Path(folder) / "backups"), beside:
            yield file


def write(file: Path, how_many: int, stored: list[int]) -> None:
    with closing(sqlite3.connect(file, timeout=20)) as opened:
        for _ in range(how_many):
            with opened:
                number = opened.execute("INSERT INTO work_try (said) VALUES ('x')").lastrowid
            assert number is not None
            note_acknowledged("answer", number, person=7)
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
            told, aside, missing = restore(backup, file)
            self.assertLessEqual(before, numbers(file))
            self.assertEqual((told, len(numbers(file))), (note, note.answers))
            self.assertEqual({one.number for one in missing}, set(stored) - numbers(file))
            self.assertTrue(missing)
            assert aside is not None
            self.assertEqual(aside.read_bytes()[:6], b"damage")
            self.assertEqual(missing_at_all(), [], "told once")

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
            with patch.object(acknowledged, "_base", lambda: without_log):
                for journal in file.parent.glob("a.sqlite3.acknowledged-*"):
                    shutil.copyfile(journal, without_log.with_name("b" + journal.name[1:]))
                self.assertEqual(len(missing_lately()), 4)
                told = starting.faults()
            self.assertEqual(
                told,
                [
                    "The database has lost something we had confirmed as saved: 4 answers.",
                    "There is no backup.",
                ],
            )

    def test_everything_acknowledged_is_told_by_name(self) -> None:
        with a_database() as file, closing(sqlite3.connect(file)) as opened:

            def put(statement: str, *values: object) -> None:
                with opened:
                    opened.execute(statement, values)

            put("INSERT INTO exams_attempt (id) VALUES (1), (2)")
            put("INSERT INTO exams_answersofar (id, counter) VALUES (5, 3)")
            note_acknowledged("save", 5, value=3, person=7)
            backup, _ = back_up(file, file.parent / "backups", keep=3)
            put("UPDATE exams_answersofar SET counter = 9 WHERE id = 5")
            for counter in (8, 9):
                note_acknowledged("save", 5, value=counter, person=7)
            put("UPDATE exams_attempt SET handed_in_at = 'now'")
            for attempt in (1, 2):
                note_acknowledged("hand-in", attempt, person=7)
            note_acknowledged("reopened", 2)
            put("INSERT INTO exams_page (id) VALUES (1), (2)")
            for page in (1, 2):
                note_acknowledged("page", page, person=7)
            put("DELETE FROM exams_page WHERE id = 1")
            put("UPDATE exams_attempt SET handed_in_at = NULL WHERE id = 2")
            self.assertEqual(missing_at_all(), [], "what was taken away since is not missing")
            _, _, missing = restore(backup, file)
            self.assertEqual(
                [(one.kind, one.number, one.value, one.person) for one in missing],
                [
                    ("save", 5, 9, 7),
                    ("hand-in", 1, 0, 7),
                    ("page", 1, 0, 7),
                    ("page", 2, 0, 7),
                ],
            )
            says = "1 saved change in a test, 1 hand-in and 2 pages of paper"
            self.assertEqual(in_words(missing), says)

    def test_a_line_that_was_cut_off_and_days_long_gone(self) -> None:
        with a_database() as file:
            write(file, 1, [])
            (journal,) = file.parent.glob("*.acknowledged-*")
            with journal.open("a") as cut:
                cut.write("2026-03-02T09:00:00.0")
            self.assertEqual(missing_at_all(), [])
            old = file.with_name(f"{file.name}.acknowledged-20200101")
            old.write_text("")
            back_up(file, file.parent / "backups", keep=1)
            self.assertFalse(old.exists())

    def test_a_database_that_is_in_use_is_not_replaced(self) -> None:
        with (
            TemporaryDirectory() as folder,
            (Path(folder) / "running").open("w") as own,
            (Path(folder) / "running").open("w") as other,
            patch.object(running, "_file", own.fileno),
        ):
            self.assertTrue(running.have_alone())
            fcntl.flock(own, fcntl.LOCK_UN)
            fcntl.flock(other, fcntl.LOCK_SH)
            self.assertFalse(running.have_alone())
            with self.assertRaisesRegex(CommandError, "still has this database"):
                run_command("restore", stopped=True)

    def test_the_first_start_makes_a_backup(self) -> None:
        with a_database() as file, patch.dict(connection.settings_dict, {"NAME": str(file)}):
            starting.first_backup()
            (made,) = backups(file.parent / "backups")
            starting.first_backup()
            self.assertEqual(backups(file.parent / "backups"), [made])

    def test_only_so_many_are_kept_and_only_sound_ones_used(self) -> None:
        with a_database() as file:
            folder = file.parent / "backups"
            with self.assertRaisesRegex(BackupRefused, "no note"):
                note_of(folder / "none.sqlite3")
            with patch("vendaval.backups.backup.NAMED", "vendaval-%Y%m%d-%H%M%S-%f"):
                made = [back_up(file, folder, keep=2)[0] for _ in range(4)]
            self.assertEqual(backups(folder), made[:1:-1])
            with made[-1].open("ab") as longer:
                longer.write(b"x")
            with self.assertRaisesRegex(BackupRefused, "has been changed since it was made"):
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
