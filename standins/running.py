"""The stand-ins started beside something else: for tests and measurements."""

from __future__ import annotations

import json
import os
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import urlopen

ROOT = Path(__file__).resolve().parents[1]
SECONDS = 60.0


class Standins:
    """Stand-ins that run at an address."""

    def __init__(self, address: str) -> None:
        self.address = address

    def behave(self, name: str, way: str) -> None:
        """Tell one how to behave."""
        urlopen(f"{self.address}/behave/{name}", urlencode({"way": way}).encode()).close()

    def forget(self, name: str) -> None:
        """Let one begin anew, and behave well."""
        urlopen(f"{self.address}/forget/{name}", b"").close()

    def counts(self) -> dict[str, int]:
        """Statements that the record store has, and how often any arrived."""
        with urlopen(f"{self.address}/xapi/counts") as reply:
            found: dict[str, int] = json.load(reply)
        return found


@contextmanager
def running(vendaval: str = "") -> Iterator[Standins]:
    """Run the stand-ins with a database of their own. vendaval: where that is."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    address = f"http://127.0.0.1:{port}"
    with tempfile.TemporaryDirectory() as folder:
        more = {"STANDINS_VAR": folder, "STANDINS_ADDRESS": address, "STANDINS_VENDAVAL": vendaval}
        settings = {"DJANGO_SETTINGS_MODULE": "standins.settings", "PYTHONPATH": str(ROOT)}
        env = {**os.environ, **more, **settings}
        subprocess.run(
            [sys.executable, "standins/manage.py", "begin"], cwd=ROOT, env=env, check=True
        )
        gunicorn = [sys.executable, "-m", "gunicorn", "-c", "standins/gunicorn_conf.py"]
        process = subprocess.Popen(
            [*gunicorn, "--bind", f"127.0.0.1:{port}", "--log-level", "critical"],
            cwd=ROOT,
            env=env,
        )
        try:
            _wait_for(address, process)
            yield Standins(address)
        finally:
            process.terminate()
            process.wait(timeout=10)


def _wait_for(address: str, process: subprocess.Popen[bytes]) -> None:
    until = time.monotonic() + SECONDS
    while time.monotonic() < until and process.poll() is None:
        try:
            urlopen(address).close()
        except (URLError, OSError):
            time.sleep(0.1)
        else:
            return
    raise RuntimeError("the stand-ins did not start")
