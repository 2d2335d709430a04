"""Confidence against outcome: the Brier score and its parts.

Sources: Brier (1950), here in the form for one event, the mean squared difference, 0 to 1; its
parts by Murphy (1973), reliability - resolution + uncertainty, which is exact where every forecast
of a group is the same, as here: confidence is given in four steps.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

# With fewer answers one lucky guess would make somebody "sure too often".
FEW = 20
CLOSE = 0.05
# Mean squared distance of what was said from what came true, step by step.
FITS = 0.02


@dataclass(frozen=True, slots=True)
class ConfidenceStep:
    """Answers given with one confidence (0 to 1): how many, and the share that was right."""

    said: float
    answers: int
    right: float


@dataclass(frozen=True, slots=True)
class Calibration:
    """score = reliability - resolution + uncertainty; all 0 to 1. reliability: 0 when what is said
    comes true as often as it is said. resolution: how far the steps are told apart. uncertainty:
    of the outcomes themselves."""

    steps: tuple[ConfidenceStep, ...]
    score: float
    reliability: float
    resolution: float
    uncertainty: float

    @property
    def answers(self) -> int:
        """Answers with a confidence."""
        return sum(step.answers for step in self.steps)

    @property
    def bias(self) -> float:
        """Mean confidence less share right: above 0 for too sure."""
        if not self.answers:
            return 0.0
        return sum(s.answers * (s.said - s.right) for s in self.steps) / self.answers


def calibration(given: Sequence[tuple[float, bool]]) -> Calibration:
    """Return how well confidence matched the results. given: pairs of confidence, 0 to 1, and
    whether the answer was right. Source: Brier (1950), Murphy (1973)."""
    steps = []
    for said in sorted({confidence for confidence, _ in given}):
        own = [right for confidence, right in given if confidence == said]
        steps.append(ConfidenceStep(said, len(own), sum(own) / len(own)))
    count = len(given)
    if not count:
        return Calibration((), 0.0, 0.0, 0.0, 0.0)
    base = sum(right for _, right in given) / count
    return Calibration(
        tuple(steps),
        sum((said - right) ** 2 for said, right in given) / count,
        sum(s.answers * (s.said - s.right) ** 2 for s in steps) / count,
        sum(s.answers * (s.right - base) ** 2 for s in steps) / count,
        base * (1 - base),
    )


def calibration_sentence(found: Calibration) -> str:
    """Return one sentence on what that means for the learner."""
    if found.answers < FEW:
        return gettext(
            "Say how sure you are on {few} more answers. Then you’ll see here how often "
            "you’re right."
        ).format(few=FEW - found.answers)
    surest = found.steps[-1]
    told = gettext("When you said {said}%, you were right {right} times in 100").format(
        said=round(100 * surest.said), right=round(100 * surest.right)
    )
    if abs(found.bias) <= CLOSE and found.reliability <= FITS:
        return gettext("{told}. You judge yourself well.").format(told=told)
    if abs(found.bias) <= CLOSE:
        return gettext(
            "{told}. Over all answers that fits, but not yet for each step of how sure you are."
        ).format(told=told)
    if found.bias > 0:
        return gettext("{told}. You’re often too sure, so check once more before you send.").format(
            told=told
        )
    return gettext("{told}. You know more than you think.").format(told=told)
