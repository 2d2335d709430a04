"""The phases of a load test, each for some seconds on the same server."""

from __future__ import annotations

import random
import threading
import time

from .driving import (
    Account,
    Line,
    Seen,
    answer_until,
    attack_until,
    bare_until,
    begin,
    together,
)
from .serving import processor_seconds

Figures = dict[str, object]


def percentiles(seen: Seen, span: float) -> Figures:
    """Throughput a second, percentiles in milliseconds, and what went wrong."""
    ordered = sorted(1000 * seconds for seconds in seen.seconds) or [0.0]

    def at(share: float) -> float:
        return round(ordered[min(len(ordered) - 1, int(share * len(ordered)))], 1)

    return {
        "answers": len(seen.seconds),
        "per_second": round(len(seen.seconds) / span, 1),
        "p50_ms": at(0.5),
        "p95_ms": at(0.95),
        "p99_ms": at(0.99),
        "most_ms": at(1.0),
        "refused": sum(n for status, n in seen.statuses.items() if 400 <= status < 500),
        "errors_5xx": sum(n for status, n in seen.statuses.items() if status >= 500),
        "cut_off": seen.statuses[0],
        "locked": seen.locked,
    }


def _all(lines: list[Line]) -> Seen:
    found = Seen()
    for line in lines:
        found = found.plus(line.seen)
    return found


def bare(port: int, seconds: float, lines: int) -> Figures:
    """The bare endpoint."""
    until = time.monotonic() + seconds
    open_lines = [Line(port) for _ in range(lines)]
    together([threading.Thread(target=bare_until, args=(line, until)) for line in open_lines])
    return percentiles(_all(open_lines), seconds)


def answering(
    port: int,
    server: int,
    course: str,
    accounts: list[Account],
    attackers: list[Account],
    seconds: float,
    think: tuple[float, float] | None,
) -> Figures:
    """Learners who answer, beside attackers if there are any."""
    lines = [Line(port, account) for account in accounts]
    hostile = [Line(port, account) for account in attackers]
    waiting = [begin(line, course) for line in lines]
    until = time.monotonic() + seconds
    before = processor_seconds(server)
    jobs = [
        threading.Thread(
            target=answer_until, args=(line, course, question, until, random.Random(), think)
        )
        for line, question in zip(lines, waiting, strict=True)
    ]
    jobs += [
        threading.Thread(target=attack_until, args=(line, course, account, until, random.Random()))
        for line, account in zip(hostile, attackers, strict=True)
    ]
    together(jobs)
    seen = _all(lines)
    found = percentiles(seen, seconds)
    if not attackers and seen.seconds:
        used = processor_seconds(server) - before
        found["processor_ms_an_answer"] = round(1000 * used / len(seen.seconds), 1)
    if attackers:
        found["attackers"] = percentiles(_all(hostile), seconds)
    return found
