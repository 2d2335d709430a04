"""How many targets are reached: one count for every page, with what became doubtful beside it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from vendaval_core.language import gettext

from ..measure.level import LevelReading
from ..words import counted, in_words, share_of
from .practice import to_be_checked

TopicState = Literal["unknown", "working", "met", "secure", "check", "not_yet"]
"""Where a topic stands to its target. check: it was reached and has become doubtful. not_yet: it
has not been taught."""


def state_of(
    reading: LevelReading, *, taught: bool, met: bool, secure: bool, lost: bool
) -> TopicState:
    """Return where a topic stands. met, secure, lost: what its history holds of its target."""
    if not taught:
        return "not_yet"
    if met:
        doubtful = lost or to_be_checked(reading.chance)
        return "check" if doubtful else "secure" if secure else "met"
    return "working" if reading.known else "unknown"


@dataclass(frozen=True, slots=True)
class Reached:
    """Targets of the topics that were taught. reached: ever, also what is doubtful by now. above:
    topics whose level is above a target that still wants something else."""

    topics: int
    reached: int
    doubtful: int
    above: int

    @classmethod
    def of(cls, topics: Iterable[tuple[TopicState, bool]]) -> Reached:
        """Count topics by their state, and whether their level is known and at or above target."""
        taught = [(state, above) for state, above in topics if state != "not_yet"]
        states = [state for state, _ in taught]
        doubtful = states.count("check")
        return cls(
            len(taught),
            states.count("met") + states.count("secure") + doubtful,
            doubtful,
            sum(above and state == "working" for state, above in taught),
        )

    @property
    def words(self) -> str:
        """To the learner, as the beginning of a sentence."""
        if not self.reached:
            return gettext("You haven’t reached a target yet") + self._above()
        if self.reached == self.topics and not self.doubtful:
            return gettext("You’ve reached every target")
        share = share_of(self.reached, self.topics, "target")
        return gettext("You’ve reached {share}").format(share=share) + self._doubtful()

    @property
    def words_of_others(self) -> str:
        """To those who read about the learner, as the beginning of a sentence."""
        if not self.reached:
            return gettext("No target reached yet")
        share = share_of(self.reached, self.topics, "target").capitalize()
        return gettext("{share} reached").format(share=share) + self._doubtful()

    def _doubtful(self) -> str:
        if not self.doubtful:
            return ""
        needs = gettext("needs a check") if self.doubtful == 1 else gettext("need a check")
        return f", {in_words(self.doubtful)} {needs}"

    def _above(self) -> str:
        """Why bars may stand beyond the post though no target is reached."""
        if not self.above:
            return ""
        return gettext(": {topics} above it, not all ideas covered").format(
            topics=counted(self.above, "topic")
        )
