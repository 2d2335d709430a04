"""How long questions take one learner, beside what they take on the whole.

Minutes add up, and so does what questions need: the pace is a ratio of sums. A mean of single
ratios on a logarithmic scale would make every estimate 6 to 20% short, because people are now and
then very slow and never very fast. A judgement: it begins at 1 as if ten answers had said so, and
forgets slowly, so that one walk to the kettle makes no slow learner.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from statistics import fmean

from vendaval_core.language import gettext

BEGINS_WITH = 10
REMEMBERS = 50
# Nobody is four times as slow at everything: more is a break.
SLOWEST = 4.0


@dataclass(frozen=True, slots=True)
class Pace:
    """ratio: a learner's seconds by those that questions need, above 0. answers: it was learned
    from. needed: seconds that these needed, the mean, with late ones counting most; 0 before any.
    """

    ratio: float = 1.0
    answers: int = 0
    needed: float = 0.0

    def after(self, seconds: float, needed: float) -> Pace:
        """The pace after one more answer. seconds: it took, needed: what such questions take, both
        above 0; more than four times that is held to four."""
        seconds = min(SLOWEST, max(1 / SLOWEST, seconds / needed)) * needed
        weight = 1 / (BEGINS_WITH + min(self.answers + 1, REMEMBERS))
        before = self.needed or needed
        spent = (1 - weight) * self.ratio * before + weight * seconds
        usual = (1 - weight) * before + weight * needed
        return Pace(spent / usual, self.answers + 1, usual)

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
    learners this is known: the mean over those who have answered enough, 1 if nobody has."""
    known = [pace.ratio for pace in paces if pace.answers >= BEGINS_WITH]
    return (fmean(known) if known else 1.0), len(known)
