"""Warm worker processes for algebra, killed when they take too long.

A hostile formula can cost its own answer and nothing else: the worker that chews on it is killed
at the limit and another takes its place.
"""

from __future__ import annotations

import atexit
import json
import os
import select
import subprocess
import sys
import threading
from pathlib import Path

LIMIT_SECONDS = 2.0
START_SECONDS = 30.0
WORKERS = 2
SOURCE = Path(__file__).resolve().parents[2]

Work = tuple[str, str, tuple[str, ...], str]
Result = tuple[str, str, str]


class _Worker:
    """One process, started when first needed and again after it was killed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None

    def acquire(self, *, wait: bool) -> bool:
        return self._lock.acquire(blocking=wait)

    def release(self) -> None:
        self._lock.release()

    def _start(self) -> subprocess.Popen[bytes]:
        process = subprocess.Popen(
            [sys.executable, "-m", "vendaval_core.scoring.worker"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            cwd=SOURCE,
        )
        self._process = process
        if self._line(process, START_SECONDS) is None:
            self.kill()
            raise TimeoutError("the algebra worker does not start")
        return process

    @staticmethod
    def _line(process: subprocess.Popen[bytes], limit: float) -> Result | None:
        # A worker writes whole lines at once, so what can be read is a line.
        assert process.stdout is not None
        if not select.select([process.stdout], [], [], limit)[0]:
            return None
        line = process.stdout.readline()
        if not line:
            return None
        verdict, canonical, message = json.loads(line)
        return verdict, canonical, message

    def kill(self) -> None:
        """End the process, whatever it does."""
        if self._process is not None:
            self._process.kill()
            self._process.communicate()
        self._process = None

    def ask(self, work: Work, limit: float) -> Result | None:
        """What the worker makes of the work; None when it took longer than `limit` seconds."""
        if self._process is not None and self._process.poll() is not None:
            self.kill()
        process = self._process or self._start()
        assert process.stdin is not None
        try:
            process.stdin.write(json.dumps(work).encode() + b"\n")
            process.stdin.flush()
            found = self._line(process, limit)
        except BrokenPipeError:
            found = None
        if found is None:
            self.kill()
        return found


class FormulaWorkers:
    """A few workers that take turns."""

    def __init__(self, count: int = WORKERS) -> None:
        self._count = count
        self._workers = [_Worker() for _ in range(count)]
        os.register_at_fork(after_in_child=self._forget)
        atexit.register(self.close)

    def _forget(self) -> None:
        """A forked process leaves its parent's workers alone and starts its own."""
        self._workers = [_Worker() for _ in range(self._count)]

    def ask(self, work: Work, limit: float = LIMIT_SECONDS) -> Result | None:
        """Compare a formula within a limit in seconds; None when it takes longer."""
        worker = next((w for w in self._workers if w.acquire(wait=False)), None)
        if worker is None:
            worker = self._workers[0]
            worker.acquire(wait=True)
        try:
            return worker.ask(work, limit)
        finally:
            worker.release()

    def close(self) -> None:
        """End all workers."""
        for worker in self._workers:
            worker.kill()


formula_workers = FormulaWorkers()
