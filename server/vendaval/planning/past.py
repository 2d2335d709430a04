"""Forecasts that were made: kept, and held against what came."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from django.utils import timezone
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.levels.models import TargetMet
from vendaval.shared import clock
from vendaval_core.mastery.forecast import Forecast

from .models import PlanForecast, TopicForecast
from .schemas import TenthOut

FEWEST_PAST = 10
MOST_PAST = 2000
EARLIER = timedelta(days=7)


def earlier_says(
    enrolment: Enrolment, today: date, exam: date, between: tuple[float, float] | None
) -> str:
    """What was forecast for the date at least a week ago, beside what is forecast now."""
    earlier = (
        PlanForecast.objects.filter(
            enrolment=enrolment, exam_on=exam, made_on__lte=today - EARLIER, low__isnull=False
        )
        .order_by("made_on")
        .first()
    )
    if between is None or earlier is None or earlier.low is None or earlier.high is None:
        return ""
    return gettext(
        "On {day} we expected you to reach between {low} and {high} targets; today it’s between "
        "{now_low} and {now_high}."
    ).format(
        day=f"{earlier.made_on:%-d %B}",
        low=round(earlier.low),
        high=round(earlier.high),
        now_low=round(between[0]),
        now_high=round(between[1]),
    )


def keep_forecast(
    enrolment: Enrolment,
    today: date,
    exam: date,
    minutes: int,
    learning: Learning,
    found: Forecast,
    between: tuple[float, float] | None,
) -> None:
    """Keep the day's first forecast, to hold it against what comes."""
    topics = [
        TopicForecast(topic=topic.key, chance=round(float(found.by_topic[topic.number]), 4))
        for topic in learning.bank.topics
        if learning.taught(topic) and learning.topic(topic.key).met_at is None
    ]
    PlanForecast.objects.get_or_create(
        enrolment=enrolment,
        made_on=today,
        exam_on=exam,
        defaults={
            "minutes": minutes,
            "chance": round(found.all_met, 4),
            "low": between and between[0],
            "high": between and between[1],
            "topics": topics,
            "at": clock.now(),
        },
    )


def past_forecasts() -> list[TenthOut]:
    """How forecasts did whose date has passed, topic by topic, by tenths of what they said."""
    today = timezone.localtime(clock.now()).date()
    rows = list(PlanForecast.objects.filter(exam_on__lt=today).order_by("-pk")[:MOST_PAST])
    met = {
        (enrolment, key): at
        for enrolment, key, at in TargetMet.objects.filter(
            enrolment__in={row.enrolment_id for row in rows}
        ).values_list("enrolment", "topic__key", "at")
    }
    said: dict[int, list[tuple[float, bool]]] = {}
    for row in rows:
        for one in row.topics:
            at = met.get((row.enrolment_id, one.topic))
            came = at is not None and timezone.localtime(at).date() <= row.exam_on
            said.setdefault(min(9, int(10 * one.chance)), []).append((one.chance, came))
    return [
        TenthOut(
            said=round(sum(chance for chance, _ in pairs) / len(pairs), 3),
            came=round(sum(came for _, came in pairs) / len(pairs), 3),
            count=len(pairs),
        )
        for _, pairs in sorted(said.items())
    ]


def past_says(past: Sequence[TenthOut]) -> str:
    """How earlier estimates did, in words."""
    count = sum(one.count for one in past)
    promise = gettext("This is an estimate, not a promise")
    if count < FEWEST_PAST:
        return gettext("{promise}. We can’t yet say how good earlier estimates were.").format(
            promise=promise
        )
    said = sum(one.said * one.count for one in past) / count
    came = sum(one.came * one.count for one in past) / count
    return gettext(
        "{promise}. Of {count} earlier estimates for a topic we expected {said} in 100 to "
        "come true, and {came} in 100 did."
    ).format(promise=promise, count=count, said=round(100 * said), came=round(100 * came))
