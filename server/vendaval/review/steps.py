"""Misses to mend."""

from __future__ import annotations

from vendaval.levels.snapshot import Snapshot
from vendaval_core.mastery.next_steps import mend_steps
from vendaval_core.mastery.steps import Step

from .queries import sure_misses


def steps(seen: Snapshot) -> list[Step]:
    """At most one step for all of them."""
    sure = sure_misses(seen.enrolment) if seen.misses else 0
    return mend_steps(seen.standings, sure, seen.learning.row.pace.ratio)
