"""Giving up: quick answers after misses, which say nothing about what somebody knows.

Who has missed twice and then answers in a fraction of their own usual time has stopped trying
(effort by time and by answer: Wise and DeMars 2006); if they are right, that is luck. From then on
an answer says something again once they take their time, or are right and not quick. The figures
are judgements, tried on simulated learners (docs/measurement.md, "Giving up").
"""

from __future__ import annotations

from dataclasses import dataclass

MISSES_BEFORE = 2
QUICK_SHARE, UNHURRIED_SHARE = 0.5, 0.9


@dataclass(frozen=True, slots=True)
class Effort:
    """Where a sitting stands. misses: running. given_up: whether the last answer was one of a
    learner who had stopped trying."""

    misses: int = 0
    given_up: bool = False

    def after(self, *, right: bool, share: float | None) -> Effort:
        """After one more first try. share: of the time that such a question usually takes this
        learner; None if unknown, which is not quick."""
        quick = share is not None and share < QUICK_SHARE
        if self.given_up:
            tries = share is None or share >= UNHURRIED_SHARE or (right and not quick)
            given_up = not tries
        else:
            given_up = quick and self.misses >= MISSES_BEFORE
        return Effort(0 if right else self.misses + 1, given_up)
