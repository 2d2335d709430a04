"""Which day of a week holds what, so that no day holds more than its minutes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal


@dataclass(frozen=True, slots=True)
class Task:
    """Something to do on a day. minutes: at least 1."""

    title: str
    minutes: int
    kind: Literal["recheck", "review", "practise"]


def fitted(minutes: Sequence[int], due: Sequence[Sequence[Task]]) -> list[list[Task]]:
    """Return what to do on each day: what is due then or was left from before, in order.

    minutes, due: by day. What doesn't fit into what is left of a day waits for the next; what is
    longer than a whole day is done in parts.
    """
    waiting, days = list[Task](), list[list[Task]]()
    for left, added in zip(minutes, due, strict=True):
        waiting += added
        today = list[Task]()
        while waiting and left >= 1:
            first = waiting[0]
            if first.minutes > left and today:
                break
            taken = min(first.minutes, left)
            today.append(replace(first, minutes=taken))
            left -= taken
            waiting[:1] = (
                [replace(first, minutes=first.minutes - taken)] if taken < first.minutes else []
            )
        days.append(today)
    return days
