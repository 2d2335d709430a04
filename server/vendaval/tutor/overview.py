"""A group before a lesson: who needs attention, and every level."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from functools import partial

from django.db.models import Count
from django.utils.translation import gettext

from vendaval.assigning.challenge import challenges
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.delivery.payload import reading_out
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.models import Observation
from vendaval.levels.queries import levels_before
from vendaval.levels.settings import CHANGE
from vendaval.levels.standing import topic_state
from vendaval.shared import clock
from vendaval.shared.codes import shown_code
from vendaval.work.models import Run
from vendaval_core.mastery.attention import (
    STUCK_ANSWERS,
    Attention,
    LearnerLook,
    TopicLook,
    attention,
    group_headline,
)
from vendaval_core.mastery.challenge import Challenge
from vendaval_core.measure.level import LevelReading

from .schemas import GroupOut, LearnerRowOut, LevelCellOut, TopicColumnOut

REACHED = frozenset({"met", "secure", "check"})
"""States of a topic whose target was reached, though it may have become doubtful."""

LATELY = timedelta(days=14)
ORDER = list(Attention)


@dataclass(slots=True)
class _Lately:
    """Of some enrolments: answers of two weeks, and levels before them where they are many, by
    enrolment and topic id; the run touched last and not ended, by enrolment."""

    before: dict[tuple[int, int], float] = field(default_factory=dict)
    answers: dict[tuple[int, int], int] = field(default_factory=dict)
    left: dict[int, Run] = field(default_factory=dict)


def _lately(ids: Iterable[int], now: datetime) -> _Lately:
    found, since = _Lately(), now - LATELY
    ids = list(ids)
    seen = Observation.objects.filter(enrolment__in=ids, at__gte=since, replaces=None)
    counts = seen.values_list("enrolment", "topic").annotate(Count("pk")).order_by()
    found.answers = {(enrolment, topic): count for enrolment, topic, count in counts}
    many = {pair for pair, count in found.answers.items() if count >= STUCK_ANSWERS}
    if many:
        learners, topics = ({pair[n] for pair in many} for n in (0, 1))
        found.before = levels_before(learners, since, topics)
    runs = Run.objects.filter(enrolment__in=ids, ended_at=None, deadline_at=None, rehearsal=False)
    for run in runs.order_by("touched_at").only("enrolment", "title", "answered", "touched_at"):
        found.left[run.enrolment_id] = run
    return found


def _look(
    learning: Learning,
    readings: Sequence[LevelReading],
    lately: _Lately,
    now: datetime,
    set_work: Challenge | None,
) -> LearnerLook:
    row, own = learning.row, learning.enrolment.pk
    last, run = row.last_answer_at, lately.left.get(own)
    return LearnerLook(
        topics=[
            TopicLook(
                title=topic.title,
                reading=readings[topic.number],
                coverage=partial(learning.coverage, topic.number),
                met=(history := learning.topic(topic.key)).met_at is not None,
                secure=history.secure,
                lost=history.lost,
                before=lately.before.get((own, topic.id)),
                lately=lately.answers.get((own, topic.id), 0),
            )
            for topic in learning.bank.topics
            if learning.taught(topic)
        ],
        answers=row.answers,
        days_away=None if last is None else (now - last).total_seconds() / 86400,
        paces=learning.paces,
        change=CHANGE,
        left=None
        if run is None
        else (run.title, run.answered, (now - run.touched_at).total_seconds() / 86400),
        challenge=set_work,
    )


def _row(
    enrolment: Enrolment, learning: Learning, readings: Sequence[LevelReading], look: LearnerLook
) -> LearnerRowOut:
    kind, says = attention(look)
    answers = learning.answers_by_topic()
    return LearnerRowOut(
        id=enrolment.pk,
        name=enrolment.person.display_name,
        kind=kind,
        says=says,
        last_at=learning.row.last_answer_at,
        cells=[
            LevelCellOut(
                reading=reading_out(readings[topic.number]),
                state=topic_state(learning, topic, readings[topic.number]),
                answers=answers[topic.number],
            )
            for topic in learning.bank.topics
        ],
    )


def _columns(bank: CourseBank, group: Group, rows: list[LearnerRowOut]) -> list[TopicColumnOut]:
    levels: Mapping[int, list[int]] = defaultdict(list)
    for row in rows:
        for number, cell in enumerate(row.cells):
            if cell.reading.level is not None and cell.answers:
                levels[number].append(cell.reading.level)
    return [
        TopicColumnOut(
            key=topic.key,
            title=topic.title,
            subject=topic.subject,
            taught=topic.key not in group.settings.not_taught,
            mean=round(sum(known) / len(known)) if (known := levels[topic.number]) else None,
            known=len(known),
            met=sum(row.cells[topic.number].state in REACHED for row in rows),
        )
        for topic in bank.topics
    ]


def group_page(group: Group, waiting: int) -> GroupOut:
    """A group's overview. waiting: threads of its learners that want an answer."""
    now, bank = clock.now(), course_bank(group.course)
    # The course is the same for all: it is not read again with every one of them.
    members = list(members_of(group).select_related(None).select_related("person", "state"))
    for one in members:
        one.course = group.course
    lately = _lately((one.pk for one in members), now)
    set_work = challenges((one.pk for one in members), bank)
    rows = []
    for enrolment in members:
        learning = learning_of(enrolment)
        readings = learning.readings
        look = _look(learning, readings, lately, now, set_work.get(enrolment.pk))
        rows.append(_row(enrolment, learning, readings, look))
    rows.sort(key=lambda row: (ORDER.index(row.kind), row.name))
    code = group.codes.filter(revoked_at=None, ends_at__gt=now).first()
    return GroupOut(
        id=group.pk,
        title=group.title,
        course=group.course.key,
        course_title=group.course.title,
        headline=group_headline([row.kind for row in rows], waiting)
        if rows
        else gettext("There are no learners in this group yet."),
        waiting=waiting,
        exam_on=group.settings.exam_on,
        code=shown_code(code.code) if code else None,
        code_ends_at=code.ends_at if code else None,
        topics=_columns(bank, group, rows),
        learners=rows,
    )
