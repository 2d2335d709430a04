"""The served application on a copy of the demo database, on this machine only."""

from __future__ import annotations

import os
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


@contextmanager
def served(database: Path) -> Iterator[tuple[int, int]]:
    """Port and process id of gunicorn, with the settings of the demo."""
    port = free_port()
    environment = os.environ | {
        "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.dev",
        "VENDAVAL_DATABASE": str(database),
    }
    gunicorn = Path(sys.executable).parent / "gunicorn"
    process = subprocess.Popen(  # noqa: S603 - our own server
        [str(gunicorn), "--bind", f"127.0.0.1:{port}", "--log-level", "critical"],
        cwd=settings.ROOT,
        env=environment,
        stderr=subprocess.DEVNULL,
    )
    try:
        _wait(port)
        yield port, process.pid
    finally:
        process.terminate()
        process.wait(30)


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
    total = 0.0
    for folder in Path("/proc").iterdir():
        if not folder.name.isdigit():
            continue
        try:
            fields = (folder / "stat").read_text().rpartition(") ")[2].split()
        except OSError:
            continue
        if int(fields[1]) == parent:
            total += (int(fields[11]) + int(fields[12])) / ticks
    return total
