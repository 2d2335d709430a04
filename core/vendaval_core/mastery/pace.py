"""How long questions take one learner, beside what they take on the whole.

A judgement: the ratio is smoothed on a logarithmic scale, begins at 1 as if ten answers had said
so, and forgets slowly, so that one walk to the kettle makes no slow learner.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log
from statistics import fmean

from vendaval_core.language import gettext

BEGINS_WITH = 10
REMEMBERS = 50
# Nobody is four times as slow at everything: more is a break.
SLOWEST = 4.0


@dataclass(frozen=True, slots=True)
class Pace:
    """ratio: a learner's seconds by those that questions need, above 0. answers: it was learned
    from."""

    ratio: float = 1.0
    answers: int = 0

    def after(self, seconds: float, needed: float) -> Pace:
        """The pace after one more answer. seconds: it took, needed: what such questions take, both
        above 0; a ratio beyond four is held to four."""
        ratio = min(SLOWEST, max(1 / SLOWEST, seconds / needed))
        weight = 1 / (BEGINS_WITH + min(self.answers + 1, REMEMBERS))
        learned = exp((1 - weight) * log(self.ratio) + weight * log(ratio))
        return Pace(learned, self.answers + 1)

    def words(self) -> str:
        """How the pace compares, for a sentence on what minutes are made from."""
        if self.answers < BEGINS_WITH:
            return gettext("what these questions usually take")
        if 0.9 <= self.ratio <= 1.1:
            return gettext("you work at about the usual speed")
        percent = round(100 * abs(self.ratio - 1))
        if self.ratio > 1:
            return gettext("you take {percent}% more time than usual").format(percent=percent)
        return gettext("you take {percent}% less time than usual").format(percent=percent)


def group_ratio(paces: Iterable[Pace]) -> tuple[float, int]:
    """Return how long questions take a group, compared with the usual time, and for how many
    learners this is known: the geometric mean over those who have answered enough, 1 if nobody has.
    """
    known = [log(pace.ratio) for pace in paces if pace.answers >= BEGINS_WITH]
    return (exp(fmean(known)) if known else 1.0), len(known)
