"""Reading the log and what follows from it, for the activities."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import datetime

from django.db.models import QuerySet

from vendaval.bank.snapshot import CourseBank
from vendaval.people.models import User
from vendaval.shared.errors import NotFound
from vendaval_core.mastery.recommend import TopicStanding
from vendaval_core.measure.stopping import CLEAR_CHANCE

from .models import HelpKind, HelpOpened, LevelRecord, Miss, MissState, Purpose, Run, Try, TryKind
from .state import Learning

DOTS = 4


def open_runs(learner: User, purpose: Purpose | None = None) -> QuerySet[Run]:
    """Runs that can be taken up again, latest first."""
    runs = Run.objects.filter(learner=learner, ended_at=None).exclude(purpose=Purpose.MISSED)
    if purpose is not None:
        runs = runs.filter(purpose=purpose)
    return runs.select_related("course").defer("course__rehearsal").order_by("-touched_at")


def own_run(learner: User, run_id: int, purpose: Purpose) -> Run:
    """A learner's own run, or NotFound."""
    run = (
        Run.objects.select_related("course", "current__revision")
        .defer("course__rehearsal")
        .filter(pk=run_id, learner=learner, purpose=purpose)
        .first()
    )
    if run is None:
        raise NotFound("You have no such run.")
    return run


def open_misses(learner: User) -> QuerySet[Miss]:
    """Misses to mend: those the learner was surest of first, then the latest."""
    return (
        Miss.objects.filter(learner=learner, state=MissState.OPEN)
        .select_related("family", "topic", "presentation__revision")
        .order_by("-confidence", "-opened_at")
    )


def miss_counts(learner: User) -> Counter[int]:
    """Open misses by topic id."""
    rows = Miss.objects.filter(learner=learner, state=MissState.OPEN)
    return Counter(rows.values_list("topic_id", flat=True))


def past_levels(learner: User) -> dict[int, list[float]]:
    """Where the needles stood before: up to four earlier levels by topic id, oldest first."""
    found: dict[int, list[float]] = defaultdict(list)
    rows = (
        LevelRecord.objects.filter(learner=learner)
        .order_by("-pk")
        .values_list("topic_id", "level", "low", "high")[:400]
    )
    for topic, level, low, high in rows:
        if high - low <= 40.0:
            found[topic].append(round(level, 1))
    return {topic: spread(levels) for topic, levels in found.items()}


def spread(levels: list[float]) -> list[float]:
    """At most four of the earlier levels, newest first in, oldest first out, evenly spaced."""
    earlier = levels[1:]
    if len(earlier) <= DOTS:
        return earlier[::-1]
    step = (len(earlier) - 1) / (DOTS - 1)
    return [earlier[round(i * step)] for i in range(DOTS)][::-1]


def level_history(learner: User, topic_id: int, limit: int = 60) -> list[LevelRecord]:
    """The latest levels of a topic as they were shown, oldest first."""
    rows = LevelRecord.objects.filter(learner=learner, topic_id=topic_id).order_by("-pk")[:limit]
    return list(rows)[::-1]


def topic_tries(learner: User, topic_id: int, limit: int = 30) -> list[Try]:
    """The latest first tries in a topic, newest first."""
    rows = Try.objects.filter(learner=learner, topic_id=topic_id, first=True)
    return list(rows.select_related("presentation__revision").order_by("-pk")[:limit])


def was_opened(learner: User, bank: CourseBank, family: str, since: datetime) -> bool:
    """Whether the study section of a family was opened since a moment."""
    asked = bank.families[family].family
    topic, section = bank.section(asked.study, asked.topic)
    return HelpOpened.objects.filter(
        learner=learner, kind=HelpKind.STUDY, detail=f"{topic.key}#{section.key}", at__gte=since
    ).exists()


def _recent_shares(learner: User) -> dict[int, float]:
    """Share of the last twenty tries by topic id."""
    rows = Try.objects.filter(learner=learner).exclude(kind=TryKind.TAKEN_BACK).order_by("-pk")[:20]
    topics = Counter(row.topic_id for row in rows)
    total = sum(topics.values())
    return {topic: count / total for topic, count in topics.items()} if total else {}


def standings(learning: Learning, misses: Counter[int]) -> list[TopicStanding]:
    """Every topic as the recommendation sees it, in course order."""
    bank, readings = learning.bank, learning.readings
    recent = _recent_shares(learning.learner)
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
            importance=topic.importance,
            coverage=learning.coverage(topic.number),
            seconds=bank.mean_seconds(topic.number),
            misses=misses.get(topic.id, 0),
            recent=recent.get(topic.id, 0.0),
            waiting_for=tuple(bank.topic(k).title for k in topic.after if k in plainly_below),
        )
        for topic in bank.topics
    ]
