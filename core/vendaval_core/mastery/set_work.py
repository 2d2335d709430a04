"""How far a learner is with work that was set, and where it stands by its dates."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import TypeVar

RIGHT_EACH = 2
Wanted = TypeVar("Wanted", bound=Hashable)


class Standing(StrEnum):
    """Where set work stands. Begun and left is told apart from never opened, done late from done in
    time."""

    NOT_OPEN = "not_open"
    NOT_BEGUN = "not_begun"
    UNDER_WAY = "under_way"
    LATE = "late"
    DONE = "done"
    DONE_LATE = "done_late"
    CLOSED = "closed"


@dataclass(frozen=True, slots=True)
class Progress:
    """done, of: what counts so far, of all that is wanted. finished: when the last of it did."""

    done: int
    of: int
    finished: datetime | None = None


def progress(
    wanted: Mapping[Wanted, int], evidence: Mapping[Wanted, Sequence[datetime]]
) -> Progress:
    """Return how much of what is wanted was done.

    wanted: how often each thing must be done, 1 or more. evidence: when each was done, in any
    order.
    """
    done, last = 0, list[datetime]()
    for thing, times in wanted.items():
        at = sorted(evidence.get(thing, ()))[:times]
        done += len(at)
        if len(at) == times:
            last.append(at[-1])
    of = sum(wanted.values())
    return Progress(done, of, max(last) if last and len(last) == len(wanted) else None)


def standing(
    made: Progress,
    *,
    begun: bool,
    opens: datetime | None,
    due: datetime | None,
    closes: datetime | None,
    now: datetime,
) -> Standing:
    """Return where one learner is with set work. begun: whether anything of it was started. What
    was finished after closing does not count; what was finished after the due time is late."""
    finished = made.finished
    if finished is not None and (closes is None or finished <= closes):
        return Standing.DONE_LATE if due is not None and finished > due else Standing.DONE
    if closes is not None and now >= closes:
        return Standing.CLOSED
    if opens is not None and now < opens:
        return Standing.NOT_OPEN
    if due is not None and now >= due:
        return Standing.LATE
    return Standing.UNDER_WAY if begun or made.done else Standing.NOT_BEGUN
