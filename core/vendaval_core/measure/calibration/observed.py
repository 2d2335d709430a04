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
    """Return answers, each an ability and the share reached, in groups of about the same size by
    ability: at least 8 in each, at most ten groups, and all of one ability in one; none of too few
    answers."""
    groups = min(MOST, len(answers) // FEWEST)
    if groups == 0:
        return []
    ordered = np.array(sorted(answers))
    abilities = ordered[:, 0]
    wanted = np.arange(1, groups) * len(ordered) // groups
    cuts = [0]
    for cut in np.searchsorted(abilities, abilities[wanted], side="left").tolist():
        if cut - cuts[-1] >= FEWEST and len(ordered) - cut >= FEWEST:
            cuts.append(cut)
    return [
        ObservedPoint(float(part[:, 0].mean()), float(part[:, 1].mean()), len(part))
        for part in np.split(ordered, cuts[1:])
    ]
