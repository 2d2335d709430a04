"""The served application on a copy of the demo database, on this machine only."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings

START_SECONDS = 60


def free_port() -> int:
    """A port that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Server:
    """gunicorn with the settings of the demo; it can be killed and started again on its port."""

    def __init__(self, database: Path) -> None:
        self.port = free_port()
        self._environment = os.environ | {
            "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.dev",
            "VENDAVAL_DATABASE": str(database),
        }
        self._process = self._started()

    def _started(self) -> subprocess.Popen[bytes]:
        gunicorn = Path(sys.executable).parent / "gunicorn"
        process = subprocess.Popen(  # noqa: S603 - our own server
            [str(gunicorn), "--bind", f"127.0.0.1:{self.port}", "--log-level", "critical"],
            cwd=settings.ROOT,
            env=self._environment,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        _wait(self.port)
        return process

    @property
    def pid(self) -> int:
        """Of the process that the others belong to."""
        return self._process.pid

    def kill(self) -> None:
        """All its processes at once, in the middle of whatever they do; then start it again."""
        os.killpg(self.pid, signal.SIGKILL)
        self._process.wait(30)
        self._process = self._started()

    def kill_workers(self) -> None:
        """All processes that serve at once; the one they belong to makes new ones."""
        children = Path(f"/proc/{self.pid}/task/{self.pid}/children").read_text().split()
        for child in children:
            os.kill(int(child), signal.SIGKILL)

    def start_jobs(self) -> None:
        """A process that does jobs in the background."""
        self.jobs = subprocess.Popen(
            [sys.executable, "manage.py", "jobs", "-v", "0"],
            cwd=settings.ROOT,
            env=self._environment,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )

    def kill_jobs(self) -> None:
        """Kill it in the middle of whatever it does, and start it again."""
        os.killpg(self.jobs.pid, signal.SIGKILL)
        self.jobs.wait(30)
        self.start_jobs()

    def stop_jobs(self) -> None:
        """Let it end what it does."""
        self.jobs.terminate()
        self.jobs.wait(30)

    def stop(self) -> None:
        """Let it end what it does."""
        self._process.terminate()
        self._process.wait(30)


@contextmanager
def served(database: Path) -> Iterator[Server]:
    """The application, as long as it is needed."""
    server = Server(database)
    try:
        yield server
    finally:
        server.stop()


def _wait(port: int) -> None:
    until = time.monotonic() + START_SECONDS
    while time.monotonic() < until:
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2).close()
        except OSError:
            time.sleep(0.1)
        else:
            return
    raise TimeoutError("the server does not come up")


def processor_seconds(parent: int) -> float:
    """Processor time that the server's processes have used, algebra workers left out."""
    ticks = os.sysconf("SC_CLK_TCK")
    return sum(
        (int(fields[11]) + int(fields[12])) / ticks
        for _, fields in processes()
        if int(fields[1]) == parent
    )


def processes() -> Iterator[tuple[Path, list[str]]]:
    """Every process: its folder in /proc, and what `stat` says of it from its state on."""
    for folder in Path("/proc").iterdir():
        if not folder.name.isdigit():
            continue
        try:
            fields = (folder / "stat").read_text().rpartition(") ")[2].split()
        except OSError:
            continue
        yield folder, fields
