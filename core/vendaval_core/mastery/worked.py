"""How long somebody has worked, from the moments at which something happened."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from itertools import pairwise

# Longer without a sign is a break: the clock of some minutes stands still until the next one.
LONGEST_GAP_SECONDS = 5 * 60.0


def seconds_worked(moments: Iterable[datetime], now: datetime) -> float:
    """Return the seconds worked until now, breaks left out.

    moments: when something was begun, shown, sent or read, in any order; without any, 0.
    """
    ordered = sorted([*(one for one in moments if one <= now), now])
    gaps = ((after - before).total_seconds() for before, after in pairwise(ordered))
    return sum(min(gap, LONGEST_GAP_SECONDS) for gap in gaps)
