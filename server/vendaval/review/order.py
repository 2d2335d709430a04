"""Open misses, counted and in the order in which they are taken."""

from __future__ import annotations

from collections import Counter

from django.db.models import QuerySet

from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.levels.queries import standings
from vendaval.levels.settings import CHANGE
from vendaval_core.mastery.recommend import practice_value

from .models import Miss, MissState
from .run import MissOrder

MOST_SHOWN = 100
SUREST = ("-sure", "-opened_at", "-pk")
_ORDERS: dict[MissOrder, tuple[str, ...]] = {
    "topic": SUREST,
    "sure": SUREST,
    "newest": ("-opened_at", "-pk"),
}


def open_misses(enrolment: Enrolment, order: MissOrder = "sure") -> QuerySet[Miss]:
    """Misses to mend: those the learner was surest of first, then the latest; or just the
    latest."""
    return (
        Miss.objects.filter(enrolment=enrolment, state=MissState.OPEN)
        .select_related(
            "family", "topic", "presentation__run", "presentation__revision__family__topic"
        )
        .order_by(*_ORDERS[order])
    )


def miss_counts(enrolment: Enrolment) -> Counter[int]:
    """Open misses by topic id."""
    rows = Miss.objects.filter(enrolment=enrolment, state=MissState.OPEN)
    return Counter(rows.values_list("topic_id", flat=True))


def ordered_misses(enrolment: Enrolment, order: MissOrder) -> list[Miss]:
    """The misses that Review shows, in its order; by topic, topics by what they would gain."""
    rows = list(open_misses(enrolment, order)[:MOST_SHOWN])
    if order == "topic":
        learning = learning_of(enrolment)
        found, pace = standings(learning, miss_counts(enrolment)), learning.paces.learning_mean
        value = {one.key: practice_value(one, CHANGE, pace) for one in found}
        rows.sort(key=lambda miss: (-value.get(miss.topic.key, 0.0), miss.topic_id))
    return rows


def misses_after(enrolment: Enrolment, miss: int, order: MissOrder) -> list[Miss]:
    """The misses that come after one, which is mended by now or still open."""
    rows = ordered_misses(enrolment, order)
    place = next((i for i, row in enumerate(rows) if row.pk == miss), -1)
    return rows[place + 1 :]
