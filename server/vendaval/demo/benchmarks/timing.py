"""Times in milliseconds."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

Figures = dict[str, Any]


@contextmanager
def timed(times: list[float]) -> Iterator[None]:
    """Append the seconds that the block took."""
    started = time.perf_counter()
    yield
    times.append(time.perf_counter() - started)


def milliseconds(times: list[float]) -> Figures:
    """Median and 95th percentile of times in seconds."""
    ordered = sorted(1000 * t for t in times)
    return {
        "median_ms": round(statistics.median(ordered), 3),
        "p95_ms": round(ordered[int(0.95 * (len(ordered) - 1))], 3),
        "count": len(ordered),
    }
