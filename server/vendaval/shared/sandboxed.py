"""The inside of a sandbox: a process that reads one file somebody sent, makes something of it, and
ends. It knows no database and no settings; its limits are the kernel's.
"""

from __future__ import annotations

import json
import os
import resource
import sys
from collections.abc import Callable, Sequence
from typing import Any, NoReturn

from vendaval_core.language import gettext

Reply = tuple[dict[str, Any], Sequence[bytes]]


class Refused(Exception):
    """What was sent can't be taken, in words for whoever sent it. field: what is wrong, short."""

    def __init__(self, says: str, field: str) -> None:
        super().__init__(says)
        self.field = field


def serve(work: Callable[[dict[str, Any], bytes], Reply]) -> NoReturn:
    """Do one piece of work: a line of JSON with what is asked and the limits, then the file; back
    go a line of JSON with the lengths of what follows, and that."""
    asked = json.loads(sys.stdin.buffer.readline())
    _limit(asked["megabytes"], asked["seconds"])
    try:
        says, parts = work(asked, sys.stdin.buffer.read())
    except Refused as refused:
        says, parts = {"refused": str(refused), "field": refused.field}, []
    except MemoryError:
        says, parts = (
            {
                "refused": gettext("This file needs too much memory to read."),
                "field": gettext("too large"),
            },
            [],
        )
    out = sys.stdout.buffer
    out.write(json.dumps(says | {"lengths": [len(part) for part in parts]}).encode() + b"\n")
    for part in parts:
        out.write(part)
    out.flush()
    # Libraries that read hostile files may hang or fail when they are taken down in order.
    os._exit(0)


def _limit(megabytes: int, seconds: int) -> None:
    """Give way to everybody else, and bound memory, processor time and files."""
    os.nice(10)
    size = megabytes * 1024 * 1024
    resource.setrlimit(resource.RLIMIT_AS, (size, size))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
