"""When a mirror of a test may be tried: the same families with other numbers, which never count."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum


class MirrorWaits(StrEnum):
    """Why a mirror may not be tried yet."""

    TEST_NOT_OPEN = "test_not_open"
    UNDER_WAY = "under_way"
    ATTEMPTS_LEFT = "attempts_left"


def mirror_waits(
    now: datetime,
    *,
    opens: datetime | None,
    cut_off: datetime | None,
    attempts_left: int | None,
    under_way: bool,
    early: bool,
) -> MirrorWaits | None:
    """Return why a learner may not try the mirror of their test yet, or None once they may.

    opens, cut_off: of the test for this learner. attempts_left: at the test, None without a limit.
    under_way: whether an attempt at the test is open. early: whether the mirror is allowed before
    the test is over. A mirror never opens before its test does. Otherwise it opens when the
    attempts are used up or the test has closed.
    """
    if opens is not None and now < opens:
        return MirrorWaits.TEST_NOT_OPEN
    if cut_off is not None and now >= cut_off:
        return None
    if under_way:
        return MirrorWaits.UNDER_WAY
    if early or attempts_left == 0:
        return None
    return MirrorWaits.ATTEMPTS_LEFT
