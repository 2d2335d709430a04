"""Failed sign-ins slow an account's next ones down. Counted in the cache for five minutes."""

from __future__ import annotations

import hashlib

from django.core.cache import cache

MOST_FAILURES = 10
SECONDS = 300


def _key(username: str) -> str:
    return "failed:" + hashlib.sha256(username.casefold().encode()).hexdigest()


def failed_too_often(username: str) -> bool:
    """Whether an account had ten failed sign-ins within five minutes."""
    return int(cache.get(_key(username), 0)) >= MOST_FAILURES


def note_failure(username: str) -> None:
    """Count a failed sign-in."""
    cache.add(_key(username), 0, SECONDS)
    cache.incr(_key(username))


def forget_failures(username: str) -> None:
    """Start again after a sign-in that worked."""
    cache.delete(_key(username))
