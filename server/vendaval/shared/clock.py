"""The server's clock, in one place so that tests and the demo can hold it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime

from django.utils import timezone

_source: Callable[[], datetime] = timezone.now


def now() -> datetime:
    """The present moment, aware, in UTC."""
    return _source()


@contextmanager
def held_by(source: Callable[[], datetime]) -> Iterator[None]:
    """Let another source tell the time, in every thread, while the block runs."""
    global _source
    before = _source
    _source = source
    try:
        yield
    finally:
        _source = before
