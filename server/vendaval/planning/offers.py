"""What a learner could do now, as pieces to fill minutes with."""

from __future__ import annotations

from datetime import datetime

from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.levels.learning import Learning
from vendaval.levels.queries import standings
from vendaval.levels.settings import CHANGE
from vendaval.recheck.queries import days_since, due_topics, recheck_under_way
from vendaval.recheck.run import RecheckNote
from vendaval.review.activity import mends_left, needs_another_first
from vendaval.review.models import Miss
from vendaval.review.order import miss_counts, open_misses
from vendaval_core.mastery.filling import (
    BLOCK_QUESTIONS,
    MEND_GAIN,
    READING_GAIN,
    RECHECK_GAIN,
    Piece,
    PieceKind,
    blocks,
)
from vendaval_core.mastery.next_steps import MINUTES_PER_MISS
from vendaval_core.mastery.recheck import MOST_TOPICS, QUESTIONS
from vendaval_core.mastery.recommend import practice_value, wants_practice
from vendaval_core.mastery.step_words import practice_reason
from vendaval_core.mastery.steps import SLACK as WITH_FEEDBACK
from vendaval_core.mastery.steps import TopicStanding
from vendaval_core.words import counted, some_of

MOST_MISSES = 12


def offers(learning: Learning, now: datetime) -> list[Piece]:
    """Everything that could be done now, with gain and minutes at the learner's own pace."""
    found = standings(learning, miss_counts(learning.enrolment))
    return [
        *_rechecks(learning, now),
        *_reading(learning),
        *_mends(learning),
        *_practice(found),
    ]


def _rechecks(learning: Learning, now: datetime) -> list[Piece]:
    """One piece, as it is one run: the recheck that was left, or the one of the topics due."""
    left = recheck_under_way(learning.enrolment)
    if left is not None and isinstance(left.note, RecheckNote):
        topics = learning.bank.topics_of(left.scope)
        questions = len(left.note.left) + 1
    else:
        topics = due_topics(learning, now)[:MOST_TOPICS]
        questions = QUESTIONS * len(topics)
    if not topics:
        return []
    days = round(max(days_since(learning, topic, now) for topic in topics))
    names = some_of([topic.title.lower() for topic in topics])
    seconds = sum(learning.seconds(topic.number) for topic in topics) / len(topics)
    return [
        Piece(
            PieceKind.RECHECK,
            topics[0].key,
            gettext("Check: {names}").format(names=names),
            gettext("You last showed that you know it {days} ago.").format(
                days=counted(days, "day")
            ),
            max(1.0, questions * seconds * WITH_FEEDBACK / 60),
            RECHECK_GAIN * sum(learning.importance[topic.number] for topic in topics),
            questions,
        )
    ]


def _reading(learning: Learning) -> list[Piece]:
    found = []
    for key, place in learning.row.to_study.items():
        topic, section = learning.bank.section_of(place.topic, place.section, key)
        found.append(
            Piece(
                PieceKind.READ,
                topic.key,
                f"Read: {section.title[:1].lower()}{section.title[1:]}",
                gettext("You said you haven’t been taught this."),
                section.minutes,
                READING_GAIN * learning.importance[topic.number],
                section=section.key,
            )
        )
    return found


def _mends(learning: Learning) -> list[Piece]:
    found = []
    for miss in open_misses(learning.enrolment).select_related("family")[:MOST_MISSES]:
        if miss.family.key not in learning.bank.families:
            continue
        miss.presentation.run.enrolment = miss.enrolment = learning.enrolment
        if needs_another_first(miss, learning) or not mends_left(miss, learning):
            continue
        topic = learning.bank.topic(miss.topic.key)
        found.append(
            Piece(
                PieceKind.MEND,
                topic.key,
                gettext("Correct: {title}").format(title=_title(miss)),
                _sure(miss, topic.title),
                MINUTES_PER_MISS * learning.row.pace.ratio,
                MEND_GAIN * learning.importance[topic.number] * (1 + miss.sure / 100),
                1,
                of=miss.pk,
            )
        )
    return found


def _title(miss: Miss) -> str:
    shown = miss.presentation
    title = version_of(shown.revision, shown.seed, shown.order).title
    return f"{title[:1].lower()}{title[1:]}"


def _sure(miss: Miss, topic: str) -> str:
    if miss.sure:
        return gettext("{topic}: wrong at the first try, and you were {sure}% sure.").format(
            topic=topic, sure=miss.sure
        )
    return gettext("{topic}: wrong at the first try.").format(topic=topic)


def _practice(found: list[TopicStanding]) -> list[Piece]:
    pieces = []
    for standing in found:
        if not wants_practice(standing):
            continue
        minutes = max(1.0, BLOCK_QUESTIONS * standing.seconds * WITH_FEEDBACK / 60)
        pieces += blocks(
            Piece(
                PieceKind.PRACTISE,
                standing.key,
                standing.title,
                practice_reason(standing),
                minutes,
                practice_value(standing, CHANGE) * minutes,
                BLOCK_QUESTIONS,
            )
        )
    return pieces
