"""The process that answers killed with SIGKILL, between and during answers, and every fifth time
the whole server: nothing acknowledged is lost and nothing is counted twice."""

from __future__ import annotations

import os
import sqlite3
import threading
from http.client import HTTPException
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from .served import MAKE_LEARNERS, Learner, Server, onward

# Ten tell the same as fifty, which the load run makes (see docs/running.md), in less time.
KILLS = int(os.environ.get("VENDAVAL_KILLS", "10"))
WHOLE_SERVER_EVERY = 5


class CrashTests(TestCase):
    lasts = 40

    def test_kills_lose_nothing_and_double_nothing(self) -> None:
        with TemporaryDirectory() as folder:
            server = Server(Path(folder))
            server.manage("migrate", "-v0")
            server.manage("shell", "-v0", script=MAKE_LEARNERS)
            server.start()
            try:
                self.answer_and_kill(server)
            finally:
                server.kill()

    def answer_and_kill(self, server: Server) -> None:
        learner = Learner(server)
        question = learner.begin("crash0")
        acknowledged: list[str] = []
        cut_off = 0
        for number in range(KILLS):
            key = f"crash-key-{number:04d}"
            during = number % 2 == 1
            whole = number % WHOLE_SERVER_EVERY == 0
            killing = threading.Timer(0.001 + 0.0225 * number / KILLS, server.kill, [whole])
            if during:
                killing.start()
            try:
                reply = learner.answer(question, key, number)
            except (OSError, HTTPException, ValueError):
                reply = None
                cut_off += 1
            if during:
                killing.join()
            else:
                server.kill(whole)
            if whole:
                server.start()
            if reply is None:
                reply = learner.answer(question, key, number)
            acknowledged.append(key)
            again = learner.answer(question, key, number)
            self.assertEqual(again["feedback"], reply["feedback"])
            question = onward(learner, reply)
        with sqlite3.connect(server.database) as database:
            kept = [
                row[0] for row in database.execute("SELECT replay_key FROM work_try ORDER BY id")
            ]
            health = database.execute("PRAGMA integrity_check").fetchone()[0]
        self.assertEqual(kept, acknowledged)
        self.assertEqual(health, "ok")
        self.assertGreater(cut_off, 0, "no kill came while an answer was under way")
