"""Reading what somebody sent, in a process of its own: a hostile file costs its sender an error,
and nobody else anything.

A few at a time on a machine, and one for each person, whatever number of server processes there
are: turns are file locks, which the kernel gives back when a process dies.
"""

from __future__ import annotations

import fcntl
import json
import logging
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import IO, Any

from django.conf import settings
from django.utils.translation import gettext, gettext_noop

from .errors import Conflict, Unprocessable

PLACES = 2
WAIT_SECONDS = 10.0
AGAIN_SECONDS = 0.05
SOURCE = Path(__file__).resolve().parents[2]
CORE = SOURCE.with_name("core")
UNREADABLE = gettext_noop("We can’t read this file, or it takes too long.")

logger = logging.getLogger("vendaval.sandbox")


@dataclass(frozen=True, slots=True)
class Limits:
    """Of one piece of work: memory in megabytes, processor time and time by the clock in seconds,
    and bytes that may come back."""

    megabytes: int = 400
    seconds: int = 6
    patience: float = 12.0
    most_back: int = 60_000_000


USUAL = Limits()


def in_sandbox(
    module: str, asked: dict[str, Any], data: bytes, *, who: str, limits: Limits = USUAL
) -> tuple[dict[str, Any], list[bytes]]:
    """Have a module make something of a file within limits: what it says, and what it made.

    module: run as a program, it ends in `sandboxed.serve`. who: whose file it is. Conflict when
    another of theirs is being read, or too many others'; Unprocessable, with what is wrong, when
    the file can't be read. Never to be called under a lock or in a transaction.
    """
    head = asked | {"megabytes": limits.megabytes, "seconds": limits.seconds}
    sent = json.dumps(head).encode() + b"\n" + data
    with _turn(who):
        reply = _run(module, sent, limits)
    line, _, rest = reply.partition(b"\n")
    says = json.loads(line)
    if "refused" in says:
        raise Unprocessable(says["refused"], fields={"file": says["field"]})
    parts, start = [], 0
    for length in says["lengths"]:
        parts.append(rest[start : start + length])
        start += length
    return says, parts


def _run(module: str, sent: bytes, limits: Limits) -> bytes:
    """What a process answers; Unprocessable when it was killed, or gave up."""
    process = subprocess.Popen(  # noqa: S603 - our own module
        [sys.executable, "-m", module],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        cwd=SOURCE,
        env={
            "PATH": os.environ.get("PATH", ""),
            "OMP_NUM_THREADS": "1",
            "PYTHONPATH": str(CORE),
        },
    )
    try:
        reply, _ = process.communicate(sent, timeout=limits.patience * settings.PATIENCE)
    except subprocess.TimeoutExpired:
        reply = b""
    finally:
        process.kill()
        process.wait()
    if process.returncode != 0 or not reply or len(reply) > limits.most_back:
        logger.info("a file gave no result", extra={"program": module})
        raise Unprocessable(gettext(UNREADABLE), fields={"file": "unreadable"})
    return reply


@contextmanager
def _turn(who: str) -> Iterator[None]:
    """Hold the one turn of a person and one of the machine's places."""
    folder = Path(settings.LOCKS)
    folder.mkdir(parents=True, exist_ok=True)
    own = sha256(who.encode()).hexdigest()[:8]
    with (folder / f"file-of-{own}").open("ab") as mine:
        if not _locked(mine):
            raise Conflict(
                (
                    gettext(
                        "We’re still reading another of your files. Send this one again in a "
                        "moment."
                    )
                ),
                code="one_at_a_time",
            )
        with _place(folder):
            yield


@contextmanager
def _place(folder: Path) -> Iterator[None]:
    until = time.monotonic() + WAIT_SECONDS
    places = [(folder / f"file-place-{number}").open("ab") for number in range(PLACES)]
    try:
        while not any(_locked(place) for place in places):
            if time.monotonic() > until:
                raise Conflict(
                    gettext("We’re reading many files right now. Send yours again in a moment."),
                    code="busy",
                )
            time.sleep(AGAIN_SECONDS)
        yield
    finally:
        for place in places:
            place.close()


def _locked(file: IO[bytes]) -> bool:
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True
