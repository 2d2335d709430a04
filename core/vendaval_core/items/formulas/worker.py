"""The algebra worker: reads one piece of work a line on its input, answers one line each.

Run as `python -m vendaval_core.items.formulas.worker PARENT [gently]`; ends when its input does,
when its parent is gone, or when one piece of work takes more processor time than it may.
"""

import contextlib
import json
import os
import resource
import sys
import threading

from vendaval_core.language import gettext

MEMORY_BYTES = 1 << 30
PROCESSOR_SECONDS = 3
LOOK_SECONDS = 0.5
# Answers that wait for no algebra come first.
NICENESS = 10


def _end_with(parent: int) -> None:
    """End this process when the parent has gone: nobody would read what it finds."""

    pause = threading.Event()

    def watch() -> None:
        while os.getppid() == parent:
            pause.wait(LOOK_SECONDS)
        os._exit(1)

    threading.Thread(target=watch, daemon=True).start()


def _limit_processor() -> None:
    """Let the next piece of work use so many seconds of processor time, and no more."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    most = int(used.ru_utime + used.ru_stime) + PROCESSOR_SECONDS
    _, hard = resource.getrlimit(resource.RLIMIT_CPU)
    if hard != resource.RLIM_INFINITY:
        most = min(most, hard)
    resource.setrlimit(resource.RLIMIT_CPU, (most, hard))


def main(parent: int, *, gently: bool) -> None:
    """Answer requests until the input ends. gently: load at low priority."""
    if gently:
        os.nice(NICENESS)
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    _end_with(parent)
    # Here and not above: the server never imports sympy, which takes long to load.
    from .algebra import compare_all, warm_up

    warm_up()
    # Only now: on a busy machine a start that gives way to all others takes too long, when
    # somebody waits for it.
    if not gently:
        os.nice(NICENESS)
    print(json.dumps(["ready", "", ""]), flush=True)
    for line in sys.stdin:
        _limit_processor()
        typed, answer, misses, symbols, form = json.loads(line)
        found: tuple[str, str, str, int]
        try:
            found = compare_all(typed, answer, tuple(misses), tuple(symbols), form)
        except (
            ArithmeticError,
            RecursionError,
            MemoryError,
            TypeError,
            ValueError,
            AttributeError,
        ):
            found = ("unreadable", "", gettext("We can’t work out that formula."), -1)
        print(json.dumps(found), flush=True)


if __name__ == "__main__":
    # The server may be gone before it has read: then nobody waits for an answer.
    with contextlib.suppress(BrokenPipeError):
        main(int(sys.argv[1]), gently=sys.argv[2:] == ["gently"])
