"""The plan to a date: the learner played forward, and the week that follows from it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from hashlib import sha256

import numpy as np
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.queries import standings
from vendaval.levels.settings import CHANGE
from vendaval.recheck.queries import days_since, due_topics
from vendaval.review.order import miss_counts
from vendaval.shared import clock
from vendaval_core.mastery.aims import next_exam
from vendaval_core.mastery.forecast import (
    MOST_DAYS,
    PATHS,
    Forecast,
    TopicAhead,
    forecasts,
)
from vendaval_core.mastery.next_steps import MINUTES_PER_MISS
from vendaval_core.mastery.own_pace import own_pace, pace_words
from vendaval_core.mastery.recheck import QUESTIONS
from vendaval_core.mastery.recommend import recommend_practice
from vendaval_core.mastery.steps import SLACK, minutes_for
from vendaval_core.mastery.week import Task, fitted
from vendaval_core.words import counted, share_of

from .past import earlier_says, keep_forecast, past_forecasts, past_says
from .schemas import PlanDayOut, PlanItemOut, PlanOut, PlanPointOut, PlanTopicOut

USUAL_MINUTES = 20
MORE_MINUTES = 10
LEAST_ITEM = 3.0
DAYS_SHOWN = 7


def minutes_a_week(enrolment: Enrolment) -> list[int]:
    """Minutes from Monday to Sunday: as the learner said, or the usual ones."""
    return enrolment.aims.minutes or [USUAL_MINUTES] * 7


def _topics_ahead(learning: Learning, misses: Counter[int], now: datetime) -> list[TopicAhead]:
    found = []
    for topic in learning.bank.topics:
        scale, target = learning.bank.scales[topic.number], learning.targets[topic.number]
        found.append(
            TopicAhead(
                target=scale.ability(target),
                seconds=learning.seconds(topic.number) * SLACK,
                answers_left=learning.coverage(topic.number).answers_left,
                steady=learning.steady(topic.number),
                met=learning.topic(topic.key).met_at is not None or not learning.taught(topic),
                curves=tuple(item.curve for item in learning.bank.of_topic(topic.number)),
                recheck=_recheck_ahead(learning, topic, now),
                misses=misses[topic.id],
            )
        )
    return found


def _recheck_ahead(
    learning: Learning, topic: BankTopic, now: datetime
) -> tuple[float, float] | None:
    due = learning.topic(topic.key).recheck_at
    if due is None or not learning.taught(topic) or not learning.coverage(topic.number).essential:
        return None
    at = max(due, now)
    return (at - now) / timedelta(days=1), days_since(learning, topic, at)


def _seed(enrolment: Enrolment, day: date) -> int:
    """The same forecast all day long."""
    return int.from_bytes(sha256(f"{enrolment.seed}:{day}".encode()).digest()[:4])


def plan_page(enrolment: Enrolment) -> PlanOut:
    """The plan to the next date, made from what is known of the learner today."""
    learning, now = learning_of(enrolment), clock.now()
    today = timezone.localtime(now).date()
    exam, week = next_exam(enrolment.aims.exams, today), minutes_a_week(enrolment)
    taught = [topic for topic in learning.bank.topics if learning.taught(topic)]
    if exam is None:
        return _without_date(week, bool(enrolment.aims.minutes), len(taught))
    days = [today + timedelta(days=i) for i in range(min((exam - today).days, MOST_DAYS))]
    minutes = np.array([[week[day.weekday()] for day in days]], dtype=float)
    more = minutes + MORE_MINUTES * (minutes > 0)
    misses, pace = miss_counts(enrolment), learning.paces.learning_mean
    order = [
        learning.bank.topic(step.topic).number
        for step in recommend_practice(standings(learning, misses), CHANGE, pace)
        if step.topic is not None
    ]
    both = np.concatenate([minutes, more])
    usual, longer = forecasts(
        learning.posterior,
        learning.paces,
        _topics_ahead(learning, misses, now),
        order,
        both,
        CHANGE,
        _seed(enrolment, today),
    )
    untaught = len(learning.bank.topics) - len(taught)
    expected = usual.met_by_day[-1, 0] - untaught if days else _met(learning)
    between = _between(usual, untaught) if days else None
    keep_forecast(enrolment, today, exam, sum(week), learning, usual, between)
    past = past_forecasts()
    return PlanOut(
        exam_on=exam,
        days=len(days),
        minutes=week,
        said_minutes=bool(enrolment.aims.minutes),
        topics=len(taught),
        headline=(
            gettext("With this plan you will most likely have {topics} at the target.").format(
                topics=share_of(round(expected), len(taught), "topic")
            )
        ),
        details=details(usual, longer, len(taught)),
        chance=round(usual.all_met, 3),
        chance_with_more=round(longer.all_met, 3),
        paths=PATHS,
        curve=_curve(days, usual, untaught),
        deciding=_deciding(learning, usual),
        week=_week(learning, days, week, usual, now),
        past=past,
        past_says=past_says(past),
        pace_says=_pace_says(learning),
        earlier_says=earlier_says(enrolment, today, exam, between),
    )


def _without_date(week: list[int], said: bool, topics: int) -> PlanOut:
    return PlanOut(
        exam_on=None,
        days=0,
        minutes=week,
        said_minutes=said,
        topics=topics,
        headline=gettext("Choose a date, and we’ll make the plan."),
        details=[],
        chance=None,
        chance_with_more=None,
        paths=0,
        curve=[],
        deciding=[],
        week=[],
        past=[],
        past_says="",
        pace_says="",
        earlier_says="",
    )


def _met(learning: Learning) -> int:
    met = (learning.topic(topic.key).met_at for topic in learning.bank.topics)
    return sum(one is not None for one in met)


def _in_hundred(chance: float) -> str:
    """A chance in words of a hundred; never a certainty."""
    whole = round(100 * chance)
    if whole < 1:
        return gettext("fewer than 1 in 100")
    return (
        gettext("more than 99 in 100")
        if whole > 99
        else gettext("{whole} in 100").format(whole=whole)
    )


def details(usual: Forecast, longer: Forecast, topics: int) -> list[str]:
    """The chance of all targets, and what more minutes would change, if anything."""
    chance, with_more = _in_hundred(usual.all_met), _in_hundred(longer.all_met)
    all_ = gettext("The chance of reaching the target in all {topics} is {chance}.")
    said = [all_.format(topics=topics, chance=chance)]
    gained = max(0, round(longer.by_topic.sum() - usual.by_topic.sum()))
    rises = longer.all_met > usual.all_met and chance != with_more
    more = counted(gained, "more topic", "more topics")
    if rises and gained:
        both = gettext(
            "With {minutes} min more a day it rises to {chance}, and you reach the target in "
            "{topics}."
        )
        said.append(both.format(minutes=MORE_MINUTES, chance=with_more, topics=more))
    elif rises:
        higher = gettext("With {minutes} min more a day it rises to {chance}.")
        said.append(higher.format(minutes=MORE_MINUTES, chance=with_more))
    elif gained:
        reach = gettext("With {minutes} min more a day you reach the target in {topics}.")
        said.append(reach.format(minutes=MORE_MINUTES, topics=more))
    return said


def _curve(days: Sequence[date], usual: Forecast, untaught: int) -> list[PlanPointOut]:
    return [
        PlanPointOut(
            on=day,
            mean=round(float(mean) - untaught, 2),
            low=round(float(low) - untaught, 2),
            high=round(float(high) - untaught, 2),
        )
        for day, (mean, low, high) in zip(days, usual.met_by_day, strict=True)
    ]


def _deciding(learning: Learning, usual: Forecast) -> list[PlanTopicOut]:
    found = []
    for number in usual.deciding():
        topic = learning.bank.topics[number]
        found.append(
            PlanTopicOut(
                topic=PlaceOut(key=topic.key, title=topic.title),
                reading=reading_out(learning.readings[number]),
                chance=round(float(usual.by_topic[number]), 2),
            )
        )
    return found


def _week(
    learning: Learning,
    days: Sequence[date],
    week: Sequence[int],
    usual: Forecast,
    now: datetime,
) -> list[PlanDayOut]:
    """The next seven days: rechecks on their days, misses first of all, then practice as most of
    the paths spend it; what doesn't fit into a day comes on the next."""
    misses = miss_counts(learning.enrolment).total()
    shown = days[:DAYS_SHOWN]
    due = [_rechecks_on(learning, day, i == 0, now) for i, day in enumerate(shown)]
    if misses and due:
        length = max(1, round(MINUTES_PER_MISS * learning.row.pace.ratio * misses))
        title = counted(misses, "mistake", "mistakes").capitalize()
        due[0].append(Task(title, length, "review"))
    minutes = [week[day.weekday()] for day in shown]
    found = []
    for i, tasks in enumerate(fitted(minutes, due)):
        left = float(minutes[i] - sum(task.minutes for task in tasks))
        items = [PlanItemOut(title=t.title, minutes=t.minutes, kind=t.kind) for t in tasks]
        items += _practice(learning, usual.minutes[i], left)
        found.append(PlanDayOut(on=shown[i], minutes=minutes[i], items=items))
    return found


def _rechecks_on(learning: Learning, day: date, first: bool, now: datetime) -> list[Task]:
    """The rechecks that come due on a day; on the first, those that are due already."""
    topics = due_topics(learning, now) if first else []
    for topic in learning.bank.topics:
        due = learning.topic(topic.key).recheck_at
        if due is not None and due > now and timezone.localtime(due).date() == day:
            topics.append(topic)
    return [
        Task(
            gettext("Recheck: {topic}").format(topic=topic.title.lower()),
            minutes_for(QUESTIONS, learning.seconds(topic.number)),
            "recheck",
        )
        for topic in topics
    ]


def _practice(learning: Learning, minutes: np.ndarray, left: float) -> list[PlanItemOut]:
    """Topics of a day, those with most of the minutes first, while there is room."""
    items, whole = list[PlanItemOut](), float(minutes.sum())
    for number in np.argsort(-minutes, kind="stable"):
        share = float(minutes[number]) / whole * left if whole else 0.0
        if share < LEAST_ITEM and items:
            break
        if left < 1 or not share:
            break
        room = left - sum(item.minutes for item in items)
        taken = min(room, max(LEAST_ITEM, round(share)))
        title = learning.bank.topics[int(number)].title
        items.append(PlanItemOut(title=title, minutes=round(taken), kind="practise"))
        if len(items) == 2:
            break
    rest = round(left) - sum(item.minutes for item in items)
    if items and rest > 0:
        items[0].minutes += rest
    return items


def _between(usual: Forecast, untaught: int) -> tuple[float, float]:
    """Topics at their target on the date: the fewest and most of four in five."""
    _, low, high = usual.met_by_day[-1]
    return float(low) - untaught, float(high) - untaught


def _pace_says(learning: Learning) -> str:
    said = pace_words(own_pace(learning.paces, learning.row.answers, CHANGE))
    return said or gettext(
        "We don’t know yet how fast you learn and forget, so the estimate is wide. It gets "
        "narrower as you practise."
    )
