"""One topic's page: its level over time, the answers that made it, and what would settle it."""

from __future__ import annotations

from collections import Counter
from datetime import datetime
from typing import Literal

from django.utils import timezone
from django.utils.translation import gettext

from vendaval.bank.snapshot import BankTopic, version_of
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import StudyLinkOut
from vendaval.groups.models import Enrolment
from vendaval.levels.ideas import ideas_of
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.models import LevelReason, LevelRecord, Observation
from vendaval.levels.queries import latest_observations, level_history, past_levels, standings
from vendaval.levels.settings import CHANGE
from vendaval.measurement.fit import person_fit
from vendaval.review.order import miss_counts
from vendaval.shared import clock
from vendaval.work.models import Purpose
from vendaval_core.mastery.outlook import outlook, outlook_sentence
from vendaval_core.mastery.own_pace import own_pace, pace_words
from vendaval_core.mastery.recommend import questions_to_target
from vendaval_core.mastery.step_words import practice_reason
from vendaval_core.measure.evidence import WeightReason
from vendaval_core.measure.stopping import CLEAR_CHANCE
from vendaval_core.words import counted, in_words

from .lines import topic_line
from .schemas import LevelPointOut, OutlookOut, TopicAnswerOut, TopicLineOut, TopicPageOut


def _answer(row: Observation) -> TopicAnswerOut:
    presentation = row.tried.presentation
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    result: Literal["right", "partly", "wrong", "not_taught"]
    top = row.of - 1
    result = "right" if row.outcome == top else "partly" if row.outcome else "wrong"
    if result == "right" and row.replaces_id is None and row.tried.reply.verdict == "partly":
        # The best outcome is wider than full points.
        result = "partly"
    if row.outcome is None:
        result = "not_taught"
    return TopicAnswerOut(
        at=row.at,
        title=version.title,
        result=result,
        purpose=Purpose(presentation.run.purpose),
        weight=row.weight,
        weight_reason=row.reason,
        before=round(row.before.level, 1) if row.before else None,
        after=round(row.after.level, 1) if row.after else None,
    )


def _answers_note(learning: Learning, topic: BankTopic, answers: list[Observation]) -> str:
    """Whether the answers listed can be relied on: effort, and whether they hang together."""
    if not answers:
        return ""
    rapid = sum(row.reason == WeightReason.RAPID for row in answers)
    gave_up = sum(row.reason == WeightReason.GAVE_UP for row in answers)
    note = gettext("You took your time over all of them.")
    if gave_up and not rapid:
        note = gettext(
            "{gave_up} of them came so quickly after misses that they say nothing about what you "
            "know, so we didn’t count them."
        ).format(gave_up=in_words(gave_up).capitalize())
    if rapid:
        were = "was" if rapid == 1 else "were"
        note = gettext(
            "{rapid} of them {were} faster than you can read the question, so we didn’t count them."
        ).format(rapid=in_words(rapid).capitalize(), were=were)
    fit = person_fit(learning, topic.number)
    if fit is not None and fit.strange:
        note += gettext(
            " Easy ones were wrong while harder ones were right. A slip, or help? More "
            "answers will show."
        )
    return note


def _outlook(learning: Learning, topic: BankTopic) -> OutlookOut:
    bank = learning.bank
    found = outlook(
        bank.table,
        learning.posterior,
        bank.scales,
        learning.targets,
        [learning.answers_in(t.number) for t in bank.topics],
        [item.curve for item in bank.of_topic(topic.number)],
        topic.number,
    )
    return OutlookOut(
        sentence=outlook_sentence(found, learning.readings[topic.number]),
        if_right=reading_out(found.if_right),
        if_missed=reading_out(found.if_missed),
    )


def _point(row: LevelRecord) -> LevelPointOut:
    return LevelPointOut(
        at=row.at,
        recalibrated=row.reason == LevelReason.CALIBRATION,
        reading=reading_out(row.reading()),
    )


def _next_check(at: datetime | None) -> str:
    """When a topic is checked again, or since when that is overdue."""
    if at is None:
        return ""
    day = f"{timezone.localtime(at):%-d %B}"
    if at <= clock.now():
        return gettext(" A check is due since {day}.").format(day=day)
    return gettext(" We’ll check it again from {day}.").format(day=day)


def _target_sentence(
    learning: Learning, topic: BankTopic, line: TopicLineOut, misses: Counter[int]
) -> str:
    """Where the topic stands to its target: on the way, met, checked again, held or not."""
    standing = standings(learning, misses)[topic.number]
    more = counted(questions_to_target(standing), "more question")
    history = learning.topic(topic.key)
    if line.state == "secure":
        known = gettext("You still knew it when we checked again, so it’s secure.")
        return f"{known}{_next_check(history.recheck_at)}"
    if line.state == "met":
        known = gettext("You’ve reached the target. More practice never takes that away.")
        return f"{known}{_next_check(history.recheck_at)}"
    if history.lost:
        return gettext(
            "You reached the target, and that stays on record. A check showed you’ve "
            "forgotten some of it, so practise it again. {practice_reason}"
        ).format(practice_reason=practice_reason(standing))
    if line.state == "check" and line.reading.chance <= 1 - CLEAR_CHANCE:
        return gettext(
            "You reached the target, and that stays on record. By now you’re most likely below "
            "it, so practise it again."
        )
    if line.state == "check":
        return gettext(
            "You reached the target, and that stays on record. We’re no longer sure. A "
            "few questions will show."
        )
    return gettext("{practice_reason} About {more} will get you there.").format(
        practice_reason=practice_reason(standing), more=more
    )


def topic_page(enrolment: Enrolment, key: str, *, own: bool) -> TopicPageOut:
    """One topic: its level over time, the answers that made it, and what would settle it. own: its
    learner looks, and not somebody who reads along."""
    learning, misses = learning_of(enrolment), miss_counts(enrolment)
    topic = learning.bank.topic(key)
    line = topic_line(learning, topic, past_levels(enrolment), misses)
    answers = latest_observations(enrolment, topic.id)
    return TopicPageOut(
        line=line,
        target_sentence=_target_sentence(learning, topic, line, misses),
        history=[_point(row) for row in level_history(enrolment, topic.id)],
        answers=[_answer(row) for row in answers],
        answers_note=_answers_note(learning, topic, answers),
        pace_says=pace_words(own_pace(learning.paces, learning.row.answers, CHANGE), own=own),
        outlook=_outlook(learning, topic),
        ideas=ideas_of(learning, topic.number),
        sections=[
            StudyLinkOut(topic=topic.key, section=s.key, title=s.title, minutes=s.minutes)
            for s in topic.sections
        ],
    )
