"""What takes long to work out and hangs on little: kept by each process until that changes."""

from __future__ import annotations

from collections.abc import Callable
from hashlib import blake2b
from typing import TypeVar

from django.core.cache import cache

KEPT_SECONDS = 600
T = TypeVar("T")


def remembered(what: str, hangs_on: object, make: Callable[[], T]) -> T:
    """Work something out, unless it was for the same state. what: names it, with whose it is;
    hangs_on: everything that it hangs on but time, such as versions of rows; of what time does to
    it, up to ten minutes are missed."""
    stamp = blake2b(repr(hangs_on).encode(), digest_size=16).hexdigest()
    key = f"{what}:{stamp}"
    kept: tuple[T] | None = cache.get(key)
    if kept is None:
        kept = (make(),)
        cache.set(key, kept, KEPT_SECONDS)
    return kept[0]
