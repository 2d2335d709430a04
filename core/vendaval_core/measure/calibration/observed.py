"""What was observed of a question, to be drawn beside its curve."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

FEWEST, MOST = 8, 10


@dataclass(frozen=True, slots=True)
class ObservedPoint:
    """Answers of learners of about the same ability: its mean in logits, the share of the points
    they reached, 0 to 1, and how many answers there are."""

    ability: float
    share: float
    answers: int


def observed_points(answers: Sequence[tuple[float, float]]) -> list[ObservedPoint]:
    """Return answers, each an ability and the share reached, in groups of the same size by ability:
    at least 8 in each, at most ten groups; none of too few answers."""
    groups = min(MOST, len(answers) // FEWEST)
    if groups == 0:
        return []
    ordered = np.array(sorted(answers))
    return [
        ObservedPoint(float(part[:, 0].mean()), float(part[:, 1].mean()), len(part))
        for part in np.array_split(ordered, groups)
    ]
