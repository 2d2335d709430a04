"""Topics worth practising."""

from __future__ import annotations

from vendaval.levels.settings import CHANGE
from vendaval.levels.snapshot import Snapshot
from vendaval_core.mastery.recommend import recommend_practice
from vendaval_core.mastery.steps import Step


def steps(seen: Snapshot) -> list[Step]:
    """Topics with a level whose target is not met, best first."""
    known = [one for one in seen.standings if one.reading.known]
    return recommend_practice(known, CHANGE, seen.learning.paces.learning_mean)
