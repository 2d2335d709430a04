"""What a tutor should know of a learner before a lesson, in one line, and who comes first.

The limits are judgements; each line says its numbers, so that the tutor can judge too.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from vendaval_core.language import gettext

from ..measure.kernels import ChangeSettings
from ..measure.level import LevelReading
from ..measure.rates import Paces
from ..words import counted, in_words
from .challenge import Challenge, challenge_words
from .own_pace import no_rise_words
from .practice import LIKELY_ENOUGH, Coverage

# Fewer answers than a target usually takes say nothing about being stuck; three points are
# within the noise of a level.
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
    def flat(self) -> bool:
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
    challenge: whether set work has been too hard or too easy. paces: what is known of how fast they
    learn, for it takes longer or shorter until somebody is stuck.
    """

    topics: Sequence[TopicLook]
    answers: int
    days_away: float | None
    paces: Paces
    change: ChangeSettings
    left: tuple[str, int, float] | None = None
    challenge: Challenge | None = None


def attention(look: LearnerLook) -> tuple[Attention, str]:
    """Return the most important thing to know about a learner, and a sentence on it."""
    stuck = [
        (topic, why)
        for topic in look.topics
        if topic.flat and (why := no_rise_words(look.paces, topic.lately, look.change)) is not None
    ]
    if not look.answers and look.left is None:
        return Attention.NOT_BEGUN, "hasn’t started"
    if stuck:
        first, why = stuck[0]
        rise = (
            gettext("no progress")
            if first.before is None
            else _rise(first.reading.level - first.before)
        )
        return Attention.STUCK, (
            gettext("{answers} on {first} in two weeks, {rise}: {why}").format(
                answers=counted(first.lately, "answer"),
                first=first.title.lower(),
                rise=rise,
                why=why,
            )
        )
    if look.left is not None and look.left[2] >= LEFT_AFTER_DAYS:
        title, answered, days = look.left
        after = counted(answered, "question")
        when = counted(round(days), "day")
        return Attention.LEFT, gettext("started {title}, left after {after}, {when} ago").format(
            title=title.lower(), after=after, when=when
        )
    if look.days_away is not None and look.days_away >= AWAY_AFTER_DAYS:
        return (
            Attention.AWAY,
            gettext("hasn’t answered anything for {days}").format(
                days=counted(round(look.days_away), "day")
            ),
        )
    lost = [topic for topic in look.topics if topic.lost]
    if lost:
        return (
            Attention.LOST,
            gettext("forgot some of {lost}: the check was below the target").format(
                lost=lost[0].title.lower()
            ),
        )
    if look.challenge is not None:
        hard = look.challenge is Challenge.TOO_HARD
        return Attention.TOO_HARD if hard else Attention.TOO_EASY, challenge_words(look.challenge)
    for topic in look.topics:
        ideas = topic.uncovered()
        if ideas:
            return Attention.WAITING, gettext("{topic}: {ideas} still to cover").format(
                topic=topic.title, ideas=counted(ideas, "idea")
            )
    secure = sum(topic.secure for topic in look.topics)
    met = sum(topic.met for topic in look.topics)
    whole = len(look.topics)
    if secure and met == whole:
        return Attention.SECURE, gettext("reached every target, {secure} secure").format(
            secure=in_words(secure)
        )
    return Attention.WORKING, gettext("{met} of {targets} met").format(
        met=in_words(met), targets=counted(whole, "target")
    )


def _rise(points: float) -> str:
    """A small rise or fall of a level in words."""
    whole = round(points)
    return (
        gettext("no progress")
        if whole <= 0
        else gettext("{points} up").format(points=counted(whole, "point"))
    )


def group_headline(looks: Sequence[Attention], waiting: int) -> str:
    """Return one sentence on a group. waiting: requests for help without an answer."""
    stuck = sum(one is Attention.STUCK for one in looks)
    idle = sum(one in {Attention.NOT_BEGUN, Attention.LEFT, Attention.AWAY} for one in looks)
    parts = []
    if waiting:
        parts.append(
            gettext("{learner_is} waiting for your reply").format(
                learner_is=counted(waiting, "learner is", "learners are")
            )
        )
    if stuck:
        parts.append(gettext("{number_are} stuck").format(number_are=counted(stuck, "is", "are")))
    if idle:
        parts.append(gettext("{number_are} inactive").format(number_are=counted(idle, "is", "are")))
    if not parts:
        return gettext("Everybody is active.")
    sentence = ", and ".join([", ".join(parts[:-1]), parts[-1]] if len(parts) > 1 else parts)
    return f"{sentence[:1].upper()}{sentence[1:]}."
