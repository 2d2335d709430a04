"""What a learner may do next, and the topics as whoever recommends it sees them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import ceil

from ..measure.grid import Array
from ..measure.level import LevelReading, LevelScale
from .practice import STEADY_ENOUGH, Coverage

MOST_STEPS = 5
# Answering takes a learner its time, and reading what comes back a third as long: a judgement.
SLACK = 1.3


class StepKind(StrEnum):
    """What a recommended step is."""

    CARRY_ON = "carry_on"
    DIAGNOSE = "diagnose"
    PRACTISE = "practise"
    REVIEW = "review"
    RECHECK = "recheck"
    FRESHEN = "freshen"
    STUDY = "study"
    SPELL = "spell"


@dataclass(frozen=True, slots=True)
class Step:
    """One next step. topic: its key or None. minutes, questions: what it takes. value: targets
    expected to be met per minute, for ordering practice. run: number of the one to carry on.
    between: fewest and most questions, where that is a forecast."""

    kind: StepKind
    topic: str | None
    title: str
    reason: str
    minutes: int
    questions: int
    value: float
    run: int | None = None
    between: tuple[int, int] | None = None

    @property
    def key(self) -> str:
        """What a step is known by when it is put off: its kind and what it is about."""
        about = self.run if self.topic is None else self.topic
        return f"{self.kind}:{about}" if about is not None else str(self.kind)


@dataclass(frozen=True, slots=True)
class TopicStanding:
    """A topic as the recommendation sees it.

    steady: weight of the answers running that left it likely enough to be at its target.
    seconds: mean time a question needs. recent: share, 0 to 1, of the last day's answers spent
    here. waiting_for: titles of prerequisite topics that are plainly not at their target.
    taught: whether it has been taught so far; what has not is never recommended. reached: whether
    its target was reached and is not in doubt.
    """

    key: str
    title: str
    reading: LevelReading
    marginal: Array
    scale: LevelScale
    importance: float
    coverage: Coverage
    seconds: float
    steady: float = 0.0
    misses: int = 0
    recent: float = 0.0
    waiting_for: tuple[str, ...] = ()
    taught: bool = True
    reached: bool = False


def minutes_for(questions: int, seconds: float) -> int:
    """Return whole minutes for a number of questions with a mean length in seconds, feedback
    included."""
    return max(1, round(questions * seconds * SLACK / 60))


def answers_running(steady: float) -> int:
    """Return how many consecutive answers of full weight are still needed to be steady enough."""
    return max(0, ceil(STEADY_ENOUGH - steady))


RANK = (
    StepKind.SPELL,
    StepKind.STUDY,
    StepKind.RECHECK,
    StepKind.FRESHEN,
    StepKind.CARRY_ON,
    StepKind.DIAGNOSE,
    StepKind.PRACTISE,
)


def in_order(steps: Sequence[Step]) -> list[Step]:
    """Sort steps into the order to take them. First what was started, and what later steps must not
    help. Then practice by its value, with mending after its first topic, so that a day doesn't
    start with what went wrong."""
    review = [step for step in steps if step.kind is StepKind.REVIEW]
    others = sorted(
        (step for step in steps if step.kind is not StepKind.REVIEW),
        key=lambda step: (RANK.index(step.kind), -step.value * (step.kind is StepKind.PRACTISE)),
    )
    before = sum(step.kind is not StepKind.PRACTISE for step in others)
    place = min(before + 1, len(others))
    return [*others[:place], *review, *others[place:]]
