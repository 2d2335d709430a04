"""The process that answers killed with SIGKILL, between and during answers, and every fifth time
the whole server: nothing acknowledged is lost and nothing is counted twice."""

from __future__ import annotations

import json
import os
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from http.client import HTTPException
from http.cookiejar import CookieJar
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase

from django.conf import settings

from vendaval.demo.load.serving import free_port

KILLS = 50
WHOLE_SERVER_EVERY = 5
COURSE = "/courses/inshore"


class Server:
    """gunicorn on a database file of its own."""

    def __init__(self, folder: Path) -> None:
        self.port = free_port()
        self.database = folder / "crash.sqlite3"
        self.environment = os.environ | {
            "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.dev",
            "VENDAVAL_DATABASE": str(self.database),
            "VENDAVAL_WORKERS": "1",
            "VENDAVAL_WARM": "0",
        }

    def manage(self, *arguments: str, script: str | None = None) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=settings.ROOT,
            env=self.environment,
            input=script,
            text=True,
            check=True,
            capture_output=True,
        )

    def start(self) -> None:
        gunicorn = Path(sys.executable).parent / "gunicorn"
        self.process = subprocess.Popen(
            [str(gunicorn), "--bind", f"127.0.0.1:{self.port}", "--log-level", "critical"],
            cwd=settings.ROOT,
            env=self.environment,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        for _ in range(200):
            try:
                urllib.request.urlopen(
                    f"http://127.0.0.1:{self.port}/api/health", timeout=2
                ).close()
            except OSError:
                time.sleep(0.05)
            else:
                return
        raise AssertionError("the server does not come up")

    def kill(self, whole: bool = True) -> None:
        """Kill all of the server, or only the process that answers, which gunicorn replaces."""
        if whole:
            os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()
            return
        (answering,) = self.answering()
        os.kill(answering, signal.SIGKILL)
        while answering in self.answering():
            time.sleep(0.01)

    def answering(self) -> list[int]:
        master = self.process.pid
        return [int(p) for p in Path(f"/proc/{master}/task/{master}/children").read_text().split()]


class Learner:
    """A learner's browser, as far as answering goes."""

    def __init__(self, server: Server) -> None:
        self.address = f"http://127.0.0.1:{server.port}/api"
        self.jar = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def call(self, path: str, body: dict[str, Any] | None = None) -> Any:
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "")
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": token or ""}
        request = urllib.request.Request(self.address + path, data, headers)
        try:
            with self.opener.open(request, timeout=10) as reply:
                return json.load(reply)
        except urllib.error.HTTPError as error:
            raise AssertionError(f"{path}: {error.code}, {error.read()[:300]!r}") from None


class CrashTests(TestCase):
    lasts = 60

    def test_fifty_kills_lose_nothing_and_double_nothing(self) -> None:
        with TemporaryDirectory() as folder:
            server = Server(Path(folder))
            server.manage("migrate", "-v0")
            server.manage("shell", "-v0", script=MAKE_LEARNER)
            server.start()
            try:
                self.answer_and_kill(server)
            finally:
                server.kill()

    def answer_and_kill(self, server: Server) -> None:
        learner = Learner(server)
        learner.call("/session")
        learner.call("/session/demo", {"username": "crash"})
        question = learner.call(
            f"{COURSE}/runs", {"purpose": "practice", "topic": "speed-time-distance"}
        )["question"]
        acknowledged: list[str] = []
        cut_off = 0
        for number in range(KILLS):
            key = f"crash-key-{number:04d}"
            body = {"replay_key": key, "responses": self.junk(question, number)}
            during = number % 2 == 1
            whole = number % WHOLE_SERVER_EVERY == 0
            killing = threading.Timer(0.001 + 0.00045 * number, server.kill, [whole])
            if during:
                killing.start()
            try:
                reply = learner.call(f"{COURSE}/questions/{question['id']}/answer", body)
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
                reply = learner.call(f"{COURSE}/questions/{question['id']}/answer", body)
            acknowledged.append(key)
            again = learner.call(f"{COURSE}/questions/{question['id']}/answer", body)
            self.assertEqual(again["feedback"], reply["feedback"])
            question = self.onward(learner, reply)
        with sqlite3.connect(server.database) as database:
            kept = [
                row[0] for row in database.execute("SELECT replay_key FROM work_try ORDER BY id")
            ]
            health = database.execute("PRAGMA integrity_check").fetchone()[0]
        self.assertEqual(kept, acknowledged)
        self.assertEqual(health, "ok")
        self.assertGreater(cut_off, 0, "no kill came while an answer was under way")

    def onward(self, learner: Learner, reply: dict[str, Any]) -> Any:
        """The question to answer next; an idea missed twice running is read about first."""
        if reply["next"] is not None or not reply["question"]["closed"]:
            return reply["next"] or reply["question"]
        study = reply["run"]["study_first"]
        learner.call(f"{COURSE}/study/{study['topic']}/{study['section']}/opened", {})
        return learner.call(f"{COURSE}/runs/{reply['run']['id']}/go-on", {})["question"]

    def junk(self, question: dict[str, Any], number: int) -> dict[str, str]:
        """Answers that all differ, so that each uses a try."""
        given = {}
        for part in question["parts"]:
            if part["kind"] == "graph":
                x, y = part["x"], part["y"]
                up = [y["low"] + (number + i) % 30 * y["step"] for i in range(part["count"])]
                given[part["id"]] = "\n".join(
                    f"{x['low'] + i * x['step']} {h}" for i, h in enumerate(up)
                )
            elif part["value"] == "time":
                given[part["id"]] = f"{number % 24:02d}:{number % 60:02d}"
            elif part["value"] == "expression":
                given[part["id"]] = f"{900 + number}*{part['symbols'][0]}"
            else:
                given[part["id"]] = f"{900 + number}"
        return given


MAKE_LEARNER = """
from vendaval.bank.actions import load_pack
from vendaval.groups.actions import enrol
from vendaval.people.models import User
from vendaval_core.tests.courses import inshore_only
crash = User.objects.create_user("crash", display_name="Crash Learner", demo_note="For the test.")
enrol(crash, load_pack(inshore_only("latitude-and-distance", "speed-time-distance")))
"""
