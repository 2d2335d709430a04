"""A backup while sixteen learners answer, a database that is damaged after it, and the way back."""

from __future__ import annotations

import re
import sqlite3
import threading
from contextlib import closing
from http.client import HTTPException
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from .served import MAKE_LEARNERS, Learner, Server, onward

LEARNERS = 16


class BackupTests(TestCase):
    lasts = 20

    def test_nothing_acknowledged_before_the_backup_is_lost(self) -> None:
        with TemporaryDirectory() as folder:
            server = Server(Path(folder))
            server.manage("migrate", "-v0")
            server.manage("shell", "-v0", script=MAKE_LEARNERS)
            server.start()
            acknowledged, stop, enough = self.answering(server)
            enough.wait(30)
            before = set(acknowledged)
            self.assertIn("answers, checked", server.manage("backup"))
            after = len(acknowledged)
            while len(acknowledged) < after + 10:
                stop.wait(0.05)
            refused = server.manage("restore", "--stopped", refused=True)
            self.assertIn("still has this database", refused)
            server.kill()
            stop.set()
            with server.database.open("r+b") as damaged:
                damaged.seek(4096)
                damaged.write(b"damage" * 20_000)
            said = server.manage("restore", "--stopped")
            kept = self.kept(server.database)
            self.assertLessEqual(before, kept)
            self.assertGreater(len(before), LEARNERS)
            lost = len(set(acknowledged) - kept)
            self.assertGreater(lost, 0)
            found = re.search(r"Acknowledged and not in it: (\d+) answers", said)
            assert found is not None, said
            told = int(found[1])
            self.assertGreaterEqual(told, lost)
            self.assertLessEqual(told, lost + LEARNERS, "answers stored, their replies cut off")
            server.start()
            try:
                self.assertEqual(Learner(server).call("/health")["status"], "ok")
                question = Learner(server).begin("crash0")
                self.assertTrue(question["parts"])
                self.assertIn("equal the log", server.manage("check_states"))
            finally:
                server.kill()

    def answering(self, server: Server) -> tuple[list[str], threading.Event, threading.Event]:
        """Sixteen who answer until stopped or cut off. Their acknowledged keys; how to stop them;
        and that there are enough of them to begin with."""
        acknowledged: list[str] = []
        stop, enough = threading.Event(), threading.Event()

        def answer(name: int) -> None:
            learner = Learner(server)
            try:
                question = learner.begin(f"crash{name}")
                for number in range(1000):
                    if stop.is_set():
                        return
                    key = f"backup-{name:02d}-{number:04d}"
                    reply = learner.answer(question, key, number)
                    acknowledged.append(key)
                    if len(acknowledged) > 3 * LEARNERS:
                        enough.set()
                    question = onward(learner, reply)
            except (OSError, HTTPException, ValueError):
                return

        for name in range(LEARNERS):
            threading.Thread(target=answer, args=(name,), daemon=True).start()
        return acknowledged, stop, enough

    def kept(self, database: Path) -> set[str]:
        with closing(sqlite3.connect(database)) as opened:
            return {row[0] for row in opened.execute("SELECT replay_key FROM work_try")}
