"""Diagnostics of learners whose level is the same in every topic: how long they last at each level,
whether the range said beforehand held, and what became of the topics."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..measure.grid import probability_above
from ..measure.level import DEFAULT_TARGET
from ..measure.stopping import TopicStatus
from .study import Block, Study

LEVELS = (20.0, 35.0, 50.0, 65.0, 72.0, 80.0, 88.0, 95.0)
FAR = 20.0


@dataclass(frozen=True, slots=True)
class AtLevel:
    """Learners of one true level, or drawn from the prior (None).

    said: the range announced to the first. used: median, tenth and ninetieth percentile of the
    questions asked. inside: share whose run lasted as long as the range said. statuses: share of
    topics by how they ended. covered: share of topics whose 80 % interval holds the truth. far:
    share of the topics called close to the target whose level is more than 20 away. most: the
    oftenest that an idea was asked.
    """

    level: float | None
    learners: int
    said: tuple[int, int]
    used: tuple[float, float, float]
    inside: float
    statuses: dict[str, float]
    covered: float
    far: float | None
    most: int


def at_level(study: Study, level: float | None) -> AtLevel:
    """Run the diagnostics of a study until they stop, with learners of one level."""
    block = Block(study, range(study.learners))
    if level is not None:
        block.truth[:] = [scale.ability(level) for scale in block.scales]
    while block.going:
        block.ask_each(block.posteriors())
    posteriors = block.posteriors()
    held, ended, close = 0, Counter[str](), list[bool]()
    for place, posterior in enumerate(posteriors):
        plan = block.last[place]
        assert plan is not None
        for topic, scale in enumerate(block.scales):
            truth = float(block.truth[place, topic])
            held += 0.1 <= probability_above(posterior.marginals[topic], truth) <= 0.9
            ended[plan.statuses[topic].value] += 1
            if plan.statuses[topic] is TopicStatus.CLOSE:
                close.append(abs(scale.level(truth) - DEFAULT_TARGET) > FAR)
    size = study.learners * study.topics
    used = [len(asked) for asked in block.asked]
    first = block.first[0]
    assert first is not None
    return AtLevel(
        level,
        study.learners,
        first.range_left,
        (float(np.median(used)), _percentile(used, 10), _percentile(used, 90)),
        float(np.mean([block.in_range(place) for place in range(study.learners)])),
        {status: count / size for status, count in sorted(ended.items())},
        held / size,
        float(np.mean(close)) if close else None,
        max(max(Counter(asked).values()) for asked in block.asked),
    )


def _percentile(values: Sequence[int], which: float) -> float:
    return float(np.percentile(values, which))
