"""Warm worker processes for algebra, killed when they take too long.

A hostile formula can cost its own answer and nothing else: the worker that chews on it is killed
at the limit and another takes its place.
"""

from __future__ import annotations

import multiprocessing
import threading
from multiprocessing.connection import Connection

LIMIT_SECONDS = 2.0
START_SECONDS = 30.0
WORKERS = 2

Work = tuple[str, str, tuple[str, ...], str]
Result = tuple[str, str, str]


def _serve(pipe: Connection) -> None:
    # Here and not above: the server itself never needs sympy, which takes long to load.
    from .algebra import compare

    compare("x + 1", "1 + x", ("x",), "any")
    pipe.send(("ready", "", ""))
    while True:
        try:
            work = pipe.recv()
        except EOFError:
            return
        try:
            pipe.send(compare(*work))
        except (
            ArithmeticError,
            RecursionError,
            MemoryError,
            TypeError,
            ValueError,
            AttributeError,
        ):
            pipe.send(("unreadable", "", "That formula cannot be worked out."))


class _Worker:
    """One process, started when first needed and again after it was killed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: multiprocessing.process.BaseProcess | None = None
        self._pipe: Connection | None = None

    def acquire(self, *, wait: bool) -> bool:
        return self._lock.acquire(blocking=wait)

    def release(self) -> None:
        self._lock.release()

    def _start(self) -> Connection:
        context = multiprocessing.get_context("spawn")
        self._pipe, theirs = context.Pipe()
        self._process = context.Process(target=_serve, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()
        if not self._pipe.poll(START_SECONDS):
            self.kill()
            raise TimeoutError("the algebra worker does not start")
        self._pipe.recv()
        return self._pipe

    def kill(self) -> None:
        """End the process, whatever it does."""
        if self._process is not None:
            self._process.kill()
            self._process.join()
        self._process = self._pipe = None

    def ask(self, work: Work, limit: float) -> Result | None:
        """What the worker makes of the work; None when it took longer than `limit` seconds."""
        alive = self._process is not None and self._process.is_alive()
        pipe = self._pipe if alive and self._pipe is not None else self._start()
        try:
            pipe.send(work)
            if pipe.poll(limit):
                found: Result = pipe.recv()
                return found
        except (EOFError, OSError):
            pass
        self.kill()
        return None


class FormulaWorkers:
    """A few workers that take turns."""

    def __init__(self, count: int = WORKERS) -> None:
        self._workers = [_Worker() for _ in range(count)]

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
