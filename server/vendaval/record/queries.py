"""The record in figures."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from statistics import median

from django.db.models import Count, Q, QuerySet, Sum
from django.db.models.functions import Least, TruncWeek
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.models import LevelRecord, Observation, TargetMet
from vendaval.levels.queries import latest_of
from vendaval.levels.standing import reached_by
from vendaval.recheck.models import Recheck
from vendaval.shared import clock
from vendaval.work.models import Purpose, Run, Try, Visibility
from vendaval_core.mastery.reached import Reached
from vendaval_core.measure.confidence import calibration, calibration_sentence
from vendaval_core.words import counted

from .schemas import (
    CalibrationOut,
    ConfidenceStepOut,
    EventOut,
    RecordOut,
    RunLineOut,
    SpeedOut,
    TopicWeeksOut,
    WeekLevelOut,
    WeekOut,
)

LONGEST_COUNTED = 600
WEEKS = 12
MOST_RUNS = 30
MOST_ANSWERS = 3000


def record(enrolment: Enrolment) -> RecordOut:
    """The whole record of a learner in a course, in figures."""
    bank = course_bank(enrolment.course)
    weeks = weeks_of(enrolment)
    tries = (
        Try.objects.filter(enrolment=enrolment)
        .standing()
        .aggregate(count=Count("pk"), seconds=Sum(Least("seconds", float(LONGEST_COUNTED))))
    )
    minutes = round((tries["seconds"] or 0) / 60)
    learning = learning_of(enrolment)
    answered = sum(week.answers for week in weeks)
    return RecordOut(
        name=enrolment.person.display_name,
        course=enrolment.course.title,
        headline=_headline(reached_by(learning), answered),
        tries=tries["count"],
        minutes=minutes,
        weeks=weeks,
        topics=_topics(learning),
        calibration=_calibration(enrolment),
        speed=_speed(enrolment, bank),
        runs=_runs(enrolment),
        filters=[PlaceOut(key=topic.key, title=topic.title) for topic in bank.topics],
    )


def _headline(reached: Reached, answered: int) -> str:
    if not answered:
        return gettext("Nothing here yet. Your answers and results will appear here.")
    start = reached.words_of_others
    questions = counted(answered, "question")
    return gettext("{start}, and {questions} answered in the last {weeks} weeks").format(
        start=start, questions=questions, weeks=WEEKS
    )


def _monday(moment: datetime) -> date:
    day = timezone.localtime(moment).date()
    return day - timedelta(days=day.weekday())


def weeks_of(enrolment: Enrolment) -> list[WeekOut]:
    """Minutes and questions of the latest weeks, oldest first, weeks without any among them."""
    this = _monday(clock.now())
    since = clock.now() - timedelta(weeks=WEEKS)
    rows = (
        Try.objects.filter(enrolment=enrolment, at__gte=since)
        .standing()
        .annotate(week=TruncWeek("at"))
        .values("week")
        .annotate(
            seconds=Sum(Least("seconds", float(LONGEST_COUNTED))),
            answers=Count("pk", filter=Q(first=True)),
        )
        .order_by("week")
    )
    found = {_monday(row["week"]): row for row in rows}
    days = [this - timedelta(weeks=i) for i in range(WEEKS - 1, -1, -1)]
    return [
        WeekOut(
            on=day,
            minutes=round(found[day]["seconds"] / 60) if day in found else 0,
            answers=found[day]["answers"] if day in found else 0,
        )
        for day in days
    ]


def _topics(learning: Learning) -> list[TopicWeeksOut]:
    """Of each topic its level now, the last of each week that has one, and what happened."""
    enrolment, bank = learning.enrolment, learning.bank
    own = LevelRecord.objects.filter(enrolment=enrolment)
    since = clock.now() - timedelta(weeks=WEEKS)
    weekly = own.filter(at__gte=since).annotate(week=TruncWeek("at"))
    weeks: dict[int, list[WeekLevelOut]] = defaultdict(list)
    for row in latest_of(weekly, "topic_id", "week").order_by("at", "pk"):
        reading = reading_out(row.reading())
        weeks[row.topic_id].append(WeekLevelOut(on=_monday(row.at), reading=reading))
    events = _events(enrolment)
    return [
        TopicWeeksOut(
            topic=PlaceOut(key=topic.key, title=topic.title),
            reading=reading_out(learning.readings[topic.number]),
            weeks=weeks[topic.id],
            events=events[topic.id],
        )
        for topic in bank.topics
    ]


def _events(enrolment: Enrolment) -> dict[int, list[EventOut]]:
    found: dict[int, list[EventOut]] = defaultdict(list)
    for met in TargetMet.objects.filter(enrolment=enrolment):
        on = timezone.localtime(met.at).date()
        found[met.topic_id].append(EventOut(on=on, kind="met", says=gettext("target reached")))
    for check in Recheck.objects.filter(enrolment=enrolment).order_by("at", "pk"):
        on = timezone.localtime(check.at).date()
        after = gettext("after {days}").format(days=counted(round(check.days), "day"))
        kind, says = (
            ("held", "held") if check.held else ("lost", gettext("below the target when checked"))
        )
        found[check.topic_id].append(
            EventOut(on=on, kind="held" if kind == "held" else "lost", says=f"{says} {after}")
        )
    for events in found.values():
        events.sort(key=lambda event: event.on)
    return found


def _told(enrolment: Enrolment) -> QuerySet[Observation]:
    """Observations whose right or wrong may be told."""
    seen = Observation.objects.in_force().filter(enrolment=enrolment, outcome__isnull=False)
    return seen.exclude(tried__presentation__visibility=Visibility.NOTHING)


def _calibration(enrolment: Enrolment) -> CalibrationOut:
    """First tries that a confidence was given with, by their marks in force."""
    seen = _told(enrolment).filter(tried__confidence__isnull=False)
    rows = seen.order_by("-at", "-pk").values_list("tried__confidence", "outcome", "of")
    given = [((said or 0) / 100, outcome == of - 1) for said, outcome, of in rows[:MOST_ANSWERS]]
    found = calibration(given)
    return CalibrationOut(
        answers=found.answers,
        score=round(found.score, 4),
        reliability=round(found.reliability, 4),
        resolution=round(found.resolution, 4),
        uncertainty=round(found.uncertainty, 4),
        steps=[
            ConfidenceStepOut(
                said=round(100 * s.said), answers=s.answers, right=round(100 * s.right)
            )
            for s in found.steps
        ],
        sentence=calibration_sentence(found),
    )


def _speed(enrolment: Enrolment, bank: CourseBank) -> list[SpeedOut]:
    """Speed beside accuracy, topic by topic, of the latest first tries."""
    rows = (
        _told(enrolment)
        .order_by("-at", "-pk")
        .values_list("topic_id", "tried__seconds", "outcome", "of", "family_id")[:MOST_ANSWERS]
    )
    seconds = {item.id: item.family.seconds for item in bank.families.values()}
    by_topic: dict[int, list[tuple[float, float | None, bool]]] = defaultdict(list)
    for number, took, outcome, of, family in rows:
        by_topic[number].append((took, seconds.get(family), outcome == of - 1))
    found = []
    for topic in bank.topics:
        own = by_topic.get(topic.id, [])
        if own:
            found.append(_topic_speed(PlaceOut(key=topic.key, title=topic.title), own))
    return found


def _topic_speed(topic: PlaceOut, own: Sequence[tuple[float, float | None, bool]]) -> SpeedOut:
    wanted = [needed for _, needed, _ in own if needed is not None]
    return SpeedOut(
        topic=topic,
        answers=len(own),
        seconds=round(median(took for took, _, _ in own)),
        needed=round(median(wanted)) if wanted else 0,
        right=round(100 * sum(right for _, _, right in own) / len(own)),
    )


def _runs(enrolment: Enrolment) -> list[RunLineOut]:
    rows = Run.objects.filter(enrolment=enrolment, rehearsal=False)
    rows = rows.order_by("-started_at", "-pk")[:MOST_RUNS]
    return [
        RunLineOut(
            id=run.pk,
            purpose=Purpose(run.purpose),
            title=run.title,
            started_at=run.started_at,
            ended=run.ended_at is not None,
            answered=run.answered,
        )
        for run in rows
    ]
