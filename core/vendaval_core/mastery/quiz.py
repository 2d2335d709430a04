"""A self-made quiz: essential questions, mixed with what this learner finds hardest."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

from .practice import PracticeFamily

ESSENTIAL_SHARE = 0.5


@dataclass(frozen=True, slots=True)
class QuizItem:
    """A question idea of a quiz: its family, its topic, and why it is in."""

    family: str
    topic: str
    essential: bool
    success: float

    def why(self) -> str:
        """One line on why it is in."""
        if self.essential:
            return gettext("Everybody needs to know this idea.")
        return gettext("Hard for you: about {success} chances in 100 of getting it right.").format(
            success=round(100 * self.success)
        )


def quiz(
    families: Sequence[tuple[str, PracticeFamily]], questions: int, rng: random.Random
) -> list[QuizItem]:
    """Return the questions of a quiz, each family at most once. Half are essential, those not seen
    for longest first; the others are the hardest for this learner. They are shuffled, so that
    neither half gives itself away.

    families: (topic, family) with their expected success, 0 to 1. questions: how many, 1 or more;
    fewer if the topics have fewer families.
    """
    essential = sorted(
        (one for one in families if one[1].essential),
        key=lambda one: (one[1].last_seen, one[1].key),
    )
    wanted = min(questions, len(families))
    most = len(essential) if len(families) == len(essential) else round(ESSENTIAL_SHARE * wanted)
    first = essential[: max(most, wanted - (len(families) - len(essential)))][:wanted]
    taken = {family.key for _, family in first}
    others = sorted(
        (one for one in families if one[1].key not in taken),
        key=lambda one: (one[1].success, one[1].key),
    )
    chosen = [QuizItem(f.key, topic, True, f.success) for topic, f in first]
    chosen += [
        QuizItem(f.key, topic, False, f.success) for topic, f in others[: wanted - len(first)]
    ]
    rng.shuffle(chosen)
    return chosen
