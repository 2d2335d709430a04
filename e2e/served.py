"""A served application on a database of its own, driven over HTTP without a browser."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

from django.conf import settings

from vendaval.demo.load.serving import free_port

COURSE = "/courses/inshore"
# Seconds. It takes two on an idle machine; others may be testing beside it.
LONGEST_START = 90
MAKE_LEARNERS = """
from vendaval.bank.loading import load_pack
from vendaval.groups.actions import enrol
from vendaval.people.models import User
from vendaval_core.tests.courses import inshore_only
course = load_pack(inshore_only("latitude-and-distance", "speed-time-distance"))
for number in range(16):
    name = f"crash{number}"
    enrol(User.objects.create_user(name, display_name=name, demo_note="For the test."), course)
"""


class Server:
    """gunicorn on a database file of its own."""

    def __init__(self, folder: Path) -> None:
        self.port = free_port()
        self.database = folder / "served.sqlite3"
        self.environment = os.environ | {
            "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.dev",
            "VENDAVAL_DATABASE": str(self.database),
            "VENDAVAL_BACKUPS": str(folder / "backups"),
            "VENDAVAL_WORKERS": "1",
            "VENDAVAL_WARM": "0",
        }

    def manage(self, *arguments: str, script: str | None = None, refused: bool = False) -> str:
        """What a command of manage.py says; or, where it is to be refused, why."""
        done = subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=settings.ROOT,
            env=self.environment,
            input=script,
            text=True,
            check=not refused,
            capture_output=True,
        )
        return done.stderr if refused else done.stdout

    def start(self) -> None:
        gunicorn = Path(sys.executable).parent / "gunicorn"
        self.process = subprocess.Popen(
            [str(gunicorn), "--bind", f"127.0.0.1:{self.port}", "--log-level", "critical"],
            cwd=settings.ROOT,
            env=self.environment,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        until = time.monotonic() + LONGEST_START
        while time.monotonic() < until and self.process.poll() is None:
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

    def begin(self, username: str) -> dict[str, Any]:
        """Sign in and begin to practise; the first question."""
        self.call("/session")
        self.call("/session/demo", {"username": username})
        wanted = {"purpose": "practice", "topics": ["speed-time-distance"]}
        question: dict[str, Any] = self.call(f"{COURSE}/runs", wanted)["question"]
        return question

    def answer(self, question: dict[str, Any], key: str, number: int) -> Any:
        """Answer with something that uses a try, whatever was answered before."""
        body = {"replay_key": key, "responses": junk(question, number)}
        return self.call(f"{COURSE}/questions/{question['id']}/answer", body)


def onward(learner: Learner, reply: dict[str, Any]) -> Any:
    """The question to answer next; an idea missed twice running is read about first."""
    if reply["next"] is not None or not reply["question"]["closed"]:
        return reply["next"] or reply["question"]
    study = reply["run"]["study_first"]
    learner.call(f"{COURSE}/study/{study['topic']}/{study['section']}/opened", {})
    return learner.call(f"{COURSE}/runs/{reply['run']['id']}/go-on", {})["question"]


def junk(question: dict[str, Any], number: int) -> dict[str, str]:
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
