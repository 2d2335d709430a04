"""Reading levels, for the pages and activities."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Mapping
from datetime import datetime

from django.db.models import F, QuerySet, Window
from django.db.models.functions import RowNumber

from vendaval.groups.models import Enrolment
from vendaval.work.questions import hidden_by_tests
from vendaval_core.mastery.steps import TopicStanding
from vendaval_core.measure.level import WIDEST_SHOWN
from vendaval_core.measure.stopping import CLEAR_CHANCE

from .learning import Learning
from .models import LevelRecord, Observation
from .standing import is_reached

DOTS = 4
LATEST = 400
RECENT = 20


def past_levels(enrolment: Enrolment) -> dict[int, list[float]]:
    """Where the needles stood before: up to four earlier levels by topic id, oldest first."""
    found: dict[int, list[float]] = defaultdict(list)
    rows = LevelRecord.objects.filter(enrolment=enrolment).order_by("-at", "-pk")
    for topic, level, low, high in rows.values_list("topic_id", "level", "low", "high")[:LATEST]:
        if high - low <= WIDEST_SHOWN:
            found[topic].append(round(level, 1))
    return {topic: spread(levels) for topic, levels in found.items()}


def levels_before(
    enrolments: Collection[int], since: datetime, topics: Collection[int] | None = None
) -> dict[tuple[int, int], float]:
    """The last level that was known before a moment, by enrolment and topic id; of all topics or
    of some."""
    rows = LevelRecord.objects.filter(enrolment__in=enrolments, at__lt=since)
    if topics is not None:
        rows = rows.filter(topic__in=topics)
    columns = ("enrolment_id", "topic_id", "level", "low", "high")
    found = latest_of(rows, "enrolment_id", "topic_id").values_list(*columns)
    return {
        (enrolment, topic): level
        for enrolment, topic, level, low, high in found
        if high - low <= WIDEST_SHOWN
    }


def latest_of(rows: QuerySet[LevelRecord], *fields: str) -> QuerySet[LevelRecord]:
    """The latest level in time for each combination of some fields."""
    newest = [F("at").desc(), F("pk").desc()]
    place = Window(RowNumber(), partition_by=[F(name) for name in fields], order_by=newest)
    return rows.annotate(place=place).filter(place=1)


def spread(levels: list[float]) -> list[float]:
    """At most four of the earlier levels, newest first in, oldest first out, evenly spaced."""
    earlier = levels[1:]
    if len(earlier) <= DOTS:
        return earlier[::-1]
    step = (len(earlier) - 1) / (DOTS - 1)
    return [earlier[round(i * step)] for i in range(DOTS)][::-1]


def level_history(enrolment: Enrolment, topic_id: int, limit: int = 60) -> list[LevelRecord]:
    """The latest levels of a topic as they were shown, oldest first."""
    rows = LevelRecord.objects.filter(enrolment=enrolment, topic_id=topic_id).order_by("-at", "-pk")
    return list(rows[:limit])[::-1]


def latest_observations(enrolment: Enrolment, topic_id: int, limit: int = 30) -> list[Observation]:
    """What was observed in a topic, newest first, with the questions it comes from."""
    rows = Observation.objects.in_force().filter(enrolment=enrolment, topic_id=topic_id)
    rows = rows.exclude(hidden_by_tests(enrolment, "tried__presentation__"))
    with_questions = rows.select_related(
        "tried__presentation__revision__family__topic", "tried__presentation__run"
    )
    return list(with_questions.order_by("-at", "-pk")[:limit])


def _recent_shares(enrolment: Enrolment) -> dict[int, float]:
    """Share of the latest twenty observations by topic id."""
    rows = Observation.objects.in_force().filter(enrolment=enrolment).order_by("-at", "-pk")
    topics = Counter(rows.values_list("topic_id", flat=True)[:RECENT])
    total = topics.total()
    return {topic: count / total for topic, count in topics.items()} if total else {}


def standings(
    learning: Learning, misses: Counter[int], *, recent: Mapping[int, float] | None = None
) -> list[TopicStanding]:
    """Every topic as the recommendation sees it, in course order. misses: open, by topic id.
    recent: shares of the latest effort by topic id, where they are known or of no matter."""
    bank, readings = learning.bank, learning.readings
    if recent is None:
        recent = _recent_shares(learning.enrolment)
    posterior = learning.posterior
    plainly_below = {
        topic.key for topic in bank.topics if readings[topic.number].chance <= 1 - CLEAR_CHANCE
    }
    return [
        TopicStanding(
            key=topic.key,
            title=topic.title,
            reading=readings[topic.number],
            marginal=posterior.marginals[topic.number],
            scale=bank.scales[topic.number],
            importance=learning.importance[topic.number],
            coverage=learning.coverage(topic.number),
            steady=learning.steady(topic.number),
            seconds=learning.seconds(topic.number),
            misses=misses.get(topic.id, 0),
            recent=recent.get(topic.id, 0.0),
            waiting_for=tuple(bank.topic(k).title for k in topic.after if k in plainly_below),
            taught=learning.taught(topic),
            reached=is_reached(learning, topic, readings[topic.number]),
        )
        for topic in bank.topics
    ]
