"""Warm worker processes for algebra, killed when they take too long.

A hostile formula can cost its own answer and nothing else. Workers run at low priority with a
limit of processor time; the one that chews on a formula is killed at the limit and another takes
its place. Who asks has one formula worked out at a time, the queue is bounded, and what was
worked out once is answered from memory.
"""

from __future__ import annotations

import atexit
import json
import logging
import os
import select
import subprocess
import sys
import threading
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar, Literal

from vendaval_core.errors import AlgebraNotReady
from vendaval_core.language import gettext

LIMIT_SECONDS = 2.0
# A check of a course runs on a machine that is busy with others and has no learner waiting.
INSISTING_SECONDS = 60.0
# Loading the algebra library takes seconds, and many times that on a busy machine.
START_SECONDS = 30.0
GENTLE_START_SECONDS = 180.0
# One for each process of the application is enough: formulas are few, and answered from memory.
WORKERS = 1
# One may wait while one is worked out; who comes third is asked to send again, so that no
# thread of the server is held.
MOST_WAITING = 1
WAIT_SECONDS = 2.0
REMEMBERED = 2048
SOURCE = Path(__file__).resolve().parents[3]

logger = logging.getLogger("vendaval.formulas")
insists: ContextVar[bool] = ContextVar("insists", default=False)
asker: ContextVar[str | None] = ContextVar("asker", default=None)


@contextmanager
def asking(who: str) -> Iterator[None]:
    """Name the person whose formulas are worked out inside the block, so that each has one at a
    time."""
    token = asker.set(who)
    try:
        yield
    finally:
        asker.reset(token)


@contextmanager
def insisting() -> Iterator[None]:
    """Wait for the worker as long as it takes inside the block. Raises AlgebraNotReady if it never
    gets ready, so that nobody blames the formula."""
    token = insists.set(True)
    try:
        yield
    finally:
        insists.reset(token)


@dataclass(frozen=True, slots=True)
class Work:
    """A typed formula to be held against the right one, in a form (any, expanded, factorised,
    simplified), and against foreseen wrong ones in any form."""

    typed: str
    answer: str
    misses: tuple[str, ...]
    symbols: tuple[str, ...]
    form: str

    def line(self) -> bytes:
        """As it is sent to a worker."""
        work = [self.typed, self.answer, self.misses, self.symbols, self.form]
        return json.dumps(work).encode() + b"\n"


@dataclass(frozen=True, slots=True)
class Found:
    """verdict: right, form (equal, but not in the form asked for), wrong or unreadable. miss:
    number of the foreseen wrong formula it equals, -1 for none."""

    verdict: str
    canonical: str
    says: str
    miss: int = -1


Refused = Literal["busy", "one_at_a_time", "not_ready"]


def too_long() -> Found:
    """Return the result for a formula that takes more time than it may."""
    says = gettext("That takes too long to work out. Write it more simply.")
    return Found("unreadable", "", says)


class _Worker:
    """One process, started when first needed and again after it was killed."""

    def __init__(self) -> None:
        self._process: subprocess.Popen[bytes] | None = None
        self._starting = threading.Lock()
        self._reading = threading.Lock()

    def start(self, *, gently: bool = False) -> subprocess.Popen[bytes]:
        """The process, warm. gently: loading gives way to all others, as long as nobody waits."""
        with self._starting:
            return self._started(gently)

    def _started(self, gently: bool) -> subprocess.Popen[bytes]:
        if self._process is not None and self._process.poll() is not None:
            self.kill()
        if self._process is not None:
            return self._process
        process = subprocess.Popen(  # noqa: S603 - our own module
            [sys.executable, "-m", "vendaval_core.items.formulas.worker", str(os.getpid())]
            + ["gently"] * gently,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            cwd=SOURCE,
        )
        self._process = process
        patient = gently or insists.get()
        if self._line(process, GENTLE_START_SECONDS if patient else START_SECONDS) is None:
            self.kill()
            raise TimeoutError(gettext("the algebra worker does not start"))
        return process

    def _line(self, process: subprocess.Popen[bytes], limit: float) -> Found | None:
        # A worker writes whole lines at once, so what can be read is a line.
        assert process.stdout is not None
        with self._reading:
            if process.stdout.closed or not select.select([process.stdout], [], [], limit)[0]:
                return None
            line = process.stdout.readline()
        return Found(*json.loads(line)) if line else None

    def kill(self) -> None:
        """End the process, whatever it does."""
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            with self._reading:  # another thread may still read, and finds the end now
                process.communicate()

    def ask(self, work: Work, limit: float) -> Found | None:
        """What the worker makes of the work; None when it took longer than `limit` seconds."""
        process = self.start()
        assert process.stdin is not None
        try:
            process.stdin.write(work.line())
            process.stdin.flush()
            found = self._line(process, limit)
        except BrokenPipeError:
            found = None
        if found is None:
            self.kill()
        return found


class FormulaWorkers:
    """A few workers that take turns."""

    # How many times its usual time by the clock a formula may take, on a machine that is busy.
    patience: ClassVar[float] = 1.0

    def __init__(self, count: int = WORKERS) -> None:
        self._count = count
        self._closed = False
        self._reset()
        os.register_at_fork(after_in_child=self._reset)
        atexit.register(self.close)

    def _reset(self) -> None:
        """A forked process leaves its parent's workers alone and starts its own."""
        self._free = [_Worker() for _ in range(self._count)]
        self._all = tuple(self._free)
        self._change = threading.Condition()
        self._waiting = 0
        self._askers: set[str] = set()
        self._known: OrderedDict[Work, Found] = OrderedDict()

    def start(self) -> None:
        """Start every worker now, so that the first formula need not wait for it."""
        for worker in self._all:
            try:
                worker.start(gently=True)
            except TimeoutError:
                if self._closed:
                    return
                raise

    def ask(self, work: Work, limit: float | None = None) -> Found | Refused:
        """Compare a formula within a limit in seconds, or say why it was not taken."""
        if not insists.get():
            usual = LIMIT_SECONDS * self.patience
            return self._ask(work, limit or usual, WAIT_SECONDS * self.patience)
        found = self._ask(work, INSISTING_SECONDS, INSISTING_SECONDS)
        if not isinstance(found, Found):
            raise AlgebraNotReady(gettext("The algebra worker is not ready. Try again."))
        return found

    def _ask(self, work: Work, limit: float, patience: float) -> Found | Refused:
        who = asker.get()
        with self._change:
            if work in self._known:
                self._known.move_to_end(work)
                return self._known[work]
            if who is not None and who in self._askers:
                return "one_at_a_time"
            if not self._free and self._waiting >= MOST_WAITING:
                return "busy"
            worker = self._take_worker(patience)
            if worker is None:
                return "busy"
            if who is not None:
                self._askers.add(who)
        try:
            found = worker.ask(work, limit) or too_long()
        except TimeoutError:
            logger.exception("no formula can be worked out")
            return "not_ready"
        finally:
            with self._change:
                self._free.append(worker)
                self._askers.discard(who or "")
                self._change.notify()
        self._remember(work, found)
        return found

    def _take_worker(self, patience: float) -> _Worker | None:
        """A free worker, after waiting so many seconds for one; None when that took too long.
        Holds the lock."""
        self._waiting += 1
        try:
            free = self._change.wait_for(lambda: bool(self._free), patience)
            return self._free.pop() if free else None
        finally:
            self._waiting -= 1

    def _remember(self, work: Work, found: Found) -> None:
        with self._change:
            self._known[work] = found
            while len(self._known) > REMEMBERED:
                self._known.popitem(last=False)

    def close(self) -> None:
        """End all workers."""
        self._closed = True
        for worker in self._all:
            worker.kill()


formula_workers = FormulaWorkers()
