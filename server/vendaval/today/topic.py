"""One topic's page: its level over time, the answers that made it, and what would settle it."""

from __future__ import annotations

from typing import Literal

from vendaval.bank.models import Course
from vendaval.bank.snapshot import BankTopic, version_of
from vendaval.evidence.models import LevelReason, Presentation, Purpose, Try, TryKind
from vendaval.evidence.queries import (
    level_history,
    miss_counts,
    past_levels,
    standings,
    topic_tries,
)
from vendaval.evidence.questions import reading_out
from vendaval.evidence.schemas import StudyLinkOut
from vendaval.evidence.state import Learning, load_learning, reading_from
from vendaval.measurement.fit import person_fit
from vendaval.people.models import User
from vendaval.shared.errors import NotFound
from vendaval_core.mastery.outlook import outlook, outlook_sentence
from vendaval_core.mastery.recommend import (
    counted,
    in_words,
    practice_reason,
    questions_to_target,
)
from vendaval_core.mastery.why import why_asked
from vendaval_core.measure.evidence import WeightReason

from .queries import topic_line
from .schemas import LevelPointOut, OutlookOut, TopicAnswerOut, TopicPageOut, WhyOut


def _answer(row: Try) -> TopicAnswerOut:
    presentation = row.presentation
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    result: Literal["right", "partly", "wrong", "not_taught"]
    top = row.outcomes - 1
    result = "right" if row.outcome == top else "partly" if row.outcome else "wrong"
    if row.kind == TryKind.NOT_TAUGHT:
        result = "not_taught"
    return TopicAnswerOut(
        at=row.at,
        title=version.title,
        result=result,
        purpose=Purpose(presentation.purpose),
        weight=row.weight,
        weight_reason=row.weight_reason,
        before=round(row.before["level"], 1) if row.before else None,
        after=round(row.after["level"], 1) if row.after else None,
    )


def _answers_note(learning: Learning, topic: BankTopic, tries: list[Try]) -> str:
    """Whether the answers listed can be relied on: effort, and whether they hang together."""
    if not tries:
        return ""
    rapid = sum(row.weight_reason == WeightReason.RAPID for row in tries)
    note = "All of them took at least as long as reading takes."
    if rapid:
        were = "was" if rapid == 1 else "were"
        note = (
            f"{in_words(rapid).capitalize()} of them {were} faster than the question can be "
            "read, kept but not counted."
        )
    fit = person_fit(learning, topic.number)
    if fit is not None and fit.strange:
        note += (
            " Easy ones were missed while harder ones were right. Was there a slip, or help? "
            "Answering on will tell."
        )
    return note


def _outlook(learning: Learning, topic: BankTopic) -> OutlookOut:
    bank = learning.bank
    found = outlook(
        bank.table,
        learning.posterior,
        bank.scales,
        [t.target for t in bank.topics],
        [learning.answers_in(t.number) for t in bank.topics],
        [item.curve for item in bank.of_topic(topic.number)],
        topic.number,
    )
    return OutlookOut(
        sentence=outlook_sentence(found, learning.readings[topic.number]),
        if_right=reading_out(found.if_right),
        if_missed=reading_out(found.if_missed),
    )


def why(learner: User, presentation_id: int) -> WhyOut:
    """Why one of the learner's questions was asked."""
    row = (
        Presentation.objects.select_related("revision__family__topic")
        .filter(pk=presentation_id, learner=learner)
        .first()
    )
    if row is None:
        raise NotFound("You have no such question.")
    return WhyOut(sentences=why_asked(row.why, row.revision.family.topic.title))


def topic_page(learner: User, course: Course, key: str) -> TopicPageOut:
    """One topic: its level over time, the answers that made it, and what would settle it."""
    learning = load_learning(learner, course)
    topic = learning.bank.topic(key)
    line = topic_line(learning, topic, past_levels(learner), miss_counts(learner))
    history = [
        LevelPointOut(
            at=row.at,
            recalibrated=row.reason == LevelReason.CALIBRATION,
            reading=reading_out(
                reading_from(
                    {
                        "level": row.level,
                        "low": row.low,
                        "high": row.high,
                        "sd": row.sd,
                        "target": row.target,
                        "chance": row.chance,
                    }
                )
            ),
        )
        for row in level_history(learner, topic.id)
    ]
    tries = topic_tries(learner, topic.id)
    standing = standings(learning, miss_counts(learner))[topic.number]
    met = line.state == "met"
    more = counted(questions_to_target(standing), "more question")
    sentence = (
        "The target is met. Practising on never takes that away."
        if met
        else f"{practice_reason(standing)} About {more} would get you there."
    )
    return TopicPageOut(
        line=line,
        target_sentence=sentence,
        history=history,
        answers=[_answer(row) for row in tries],
        answers_note=_answers_note(learning, topic, tries),
        outlook=_outlook(learning, topic),
        sections=[
            StudyLinkOut(topic=topic.key, section=s.key, title=s.title, minutes=s.minutes)
            for s in topic.sections
        ],
    )
