"""What is kept between the requests of a launch: each used once, and only for a while."""

from __future__ import annotations

from datetime import timedelta
from secrets import token_urlsafe
from typing import Any

from vendaval.shared import clock

from .models import Pending

LASTS = timedelta(minutes=10)


def keep(kind: str, value: Any, key: str = "", lasts: timedelta = LASTS) -> str:
    """Keep something under a key that nobody guesses, which is returned."""
    now, key = clock.now(), key or token_urlsafe(32)
    Pending.objects.filter(ends_at__lt=now).delete()
    fields = {"value": value, "ends_at": now + lasts}
    Pending.objects.update_or_create(key=f"{kind}-{key}"[:120], defaults=fields)
    return key


def look(kind: str, key: str) -> Any:
    """What is kept; None for nothing, or what ended."""
    found = Pending.objects.filter(key=f"{kind}-{key}"[:120], ends_at__gte=clock.now()).first()
    return None if found is None else found.value


def take(kind: str, key: str) -> Any:
    """What is kept, for the one who asks first; None for everybody after them."""
    value = look(kind, key)
    gone, _ = Pending.objects.filter(key=f"{kind}-{key}"[:120]).delete()
    return value if gone else None
