"""What a tutor should know of a learner before a lesson, in one line, and who comes first.

The limits are judgements; each line says its numbers, so that the tutor can judge too.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from ..measure.level import LevelReading
from ..words import counted, in_words
from .challenge import SAYS, Challenge
from .practice import LIKELY_ENOUGH, Coverage

STUCK_ANSWERS = 12
NO_RISE = 3.0
LEFT_AFTER_DAYS = 2.0
AWAY_AFTER_DAYS = 7.0


class Attention(StrEnum):
    """What is told apart, in the order in which it wants a tutor's eye."""

    STUCK = "stuck"
    LEFT = "left"
    NOT_BEGUN = "not_begun"
    AWAY = "away"
    LOST = "lost"
    TOO_HARD = "too_hard"
    TOO_EASY = "too_easy"
    WAITING = "waiting"
    WORKING = "working"
    SECURE = "secure"


@dataclass(frozen=True, slots=True)
class TopicLook:
    """One topic of a learner. coverage: asked for only where it matters, for it takes a while.
    before: level two weeks ago, None when it was not known. lately: answers in these two weeks."""

    title: str
    reading: LevelReading
    coverage: Callable[[], Coverage]
    met: bool
    secure: bool
    lost: bool
    before: float | None
    lately: int

    @property
    def stuck(self) -> bool:
        """Many answers and no rise, below the target."""
        below = not self.met and self.reading.chance < LIKELY_ENOUGH
        flat = self.before is not None and self.reading.level - self.before < NO_RISE
        return below and flat and self.lately >= STUCK_ANSWERS

    def uncovered(self) -> int:
        """Ideas still to be covered where the level is likely enough to be at the target."""
        if self.met or self.reading.chance < LIKELY_ENOUGH:
            return 0
        coverage = self.coverage()
        return coverage.essential - coverage.covered


@dataclass(frozen=True, slots=True)
class LearnerLook:
    """One learner. answers: ever. days_away: since the last answer, None when there was none.
    left: title of a run begun and not ended, with its answers and the days since it was touched.
    challenge: whether set work has been too hard or too easy.
    """

    topics: Sequence[TopicLook]
    answers: int
    days_away: float | None
    left: tuple[str, int, float] | None = None
    challenge: Challenge | None = None


def attention(look: LearnerLook) -> tuple[Attention, str]:
    """What is most worth knowing of a learner, and in words."""
    stuck = [topic for topic in look.topics if topic.stuck]
    if not look.answers and look.left is None:
        return Attention.NOT_BEGUN, "hasn't started"
    if stuck:
        first = stuck[0]
        rise = "no progress" if first.before is None else _rise(first.reading.level - first.before)
        return Attention.STUCK, (
            f"{counted(first.lately, 'answer')} on {first.title.lower()} in two weeks, {rise}"
        )
    if look.left is not None and look.left[2] >= LEFT_AFTER_DAYS:
        title, answered, days = look.left
        after = counted(answered, "question")
        when = counted(round(days), "day")
        return Attention.LEFT, f"started {title.lower()}, left after {after}, {when} ago"
    if look.days_away is not None and look.days_away >= AWAY_AFTER_DAYS:
        return (
            Attention.AWAY,
            f"hasn't answered anything for {counted(round(look.days_away), 'day')}",
        )
    lost = [topic for topic in look.topics if topic.lost]
    if lost:
        return (
            Attention.LOST,
            f"forgot some of {lost[0].title.lower()}: the check was below the target",
        )
    if look.challenge is not None:
        hard = look.challenge is Challenge.TOO_HARD
        return Attention.TOO_HARD if hard else Attention.TOO_EASY, SAYS[look.challenge]
    for topic in look.topics:
        ideas = topic.uncovered()
        if ideas:
            return Attention.WAITING, f"{topic.title}: {counted(ideas, 'idea')} still to cover"
    secure = sum(topic.secure for topic in look.topics)
    met = sum(topic.met for topic in look.topics)
    whole = len(look.topics)
    if secure and met == whole:
        return Attention.SECURE, f"reached every target, {in_words(secure)} secure"
    return Attention.WORKING, f"{in_words(met)} of {counted(whole, 'target')} met"


def _rise(points: float) -> str:
    """A small rise or fall of a level in words."""
    whole = round(points)
    return "no progress" if whole <= 0 else f"{counted(whole, 'point')} up"


def group_headline(looks: Sequence[Attention], waiting: int) -> str:
    """One sentence on a group. waiting: help asked for and not answered yet."""
    stuck = sum(one is Attention.STUCK for one in looks)
    idle = sum(one in {Attention.NOT_BEGUN, Attention.LEFT, Attention.AWAY} for one in looks)
    parts = []
    if waiting:
        parts.append(f"{counted(waiting, 'learner is', 'learners are')} waiting for your reply")
    if stuck:
        parts.append(f"{counted(stuck, 'is', 'are')} stuck")
    if idle:
        parts.append(f"{counted(idle, 'is', 'are')} inactive")
    if not parts:
        return "Everybody is active."
    sentence = ", and ".join([", ".join(parts[:-1]), parts[-1]] if len(parts) > 1 else parts)
    return f"{sentence[:1].upper()}{sentence[1:]}."
