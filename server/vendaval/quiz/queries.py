"""What a self-made quiz would ask."""

from __future__ import annotations

import random
from collections.abc import Sequence

from vendaval.levels.learning import Learning
from vendaval_core.mastery.quiz import QuizItem, quiz


def quiz_items(learning: Learning, topics: Sequence[str], questions: int) -> list[QuizItem]:
    """Ideas of a quiz over some topics, the same until the learner is shown another question."""
    families = [
        (topic.key, family)
        for topic in learning.bank.topics
        if topic.key in topics and learning.taught(topic)
        for family in learning.families_to_ask(topic.number)
    ]
    seed = f"{learning.enrolment.seed}:{learning.row.presented}:{','.join(sorted(topics))}"
    return quiz(families, questions, random.Random(seed))
