"""Recording a try: the one way an answer travels from response to level.

`judge` scores what was sent to an open question and moves the levels in memory, `store` writes
try, state, levels and misses. Both run inside the activity's transaction.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db import IntegrityError
from django.db.models import F

from vendaval.shared.errors import Conflict
from vendaval_core.mastery.practice import target_met
from vendaval_core.measure.evidence import starts_sitting, weight_of
from vendaval_core.measure.journal import Entry, advance
from vendaval_core.measure.response import NOT_TAUGHT, Outcome
from vendaval_core.scoring.tries import (
    Submission,
    TryRules,
    first_try_category,
    submit,
)

from .models import (
    LevelRecord,
    Miss,
    MissState,
    Presentation,
    Purpose,
    TargetMet,
    Try,
    TryKind,
)
from .opening import OpenQuestion, refuse_closed
from .settings import CHANGE
from .state import ReadingData, reading_data, seconds_between

LEVEL_MOVED = 1.0
CHANCE_MOVED = 0.05
LONGEST_COUNTED_SECONDS = 600


@dataclass(frozen=True, slots=True)
class Sent:
    """What a learner sent. confidence: chance of being right in per cent, if it was given."""

    replay_key: str
    responses: Mapping[str, str]
    confidence: int | None = None
    kind: TryKind = TryKind.ANSWER


@dataclass(slots=True)
class Judged:
    """A try that is scored but not stored yet."""

    question: OpenQuestion
    row: Try
    submission: Submission | None
    records: list[LevelRecord] = field(default_factory=list)
    met: bool = False
    mended: bool = False

    @property
    def counts(self) -> bool:
        """Whether a try was used."""
        return self.submission is None or self.submission.counted

    @property
    def missed(self) -> bool:
        """Whether the first tries fell short of full points."""
        top = self.question.item.curve.categories - 1
        return self.row.outcome is not None and self.row.outcome < top

    @property
    def right(self) -> bool:
        """Whether every part was right at its first try."""
        return self.row.outcome is not None and not self.missed


def judge(
    question: OpenQuestion,
    sent: Sent,
    *,
    rules: TryRules,
    learning_follows: bool,
    whole: bool,
    now: datetime,
) -> Judged:
    """Score a try and move the levels in memory. Only first tries move them."""
    refuse_closed(question)
    presentation, learning = question.presentation, question.learning
    shown = presentation.shown_at or presentation.made_at
    submission = None
    row = Try(
        presentation=presentation,
        learner=learning.learner,
        family_id=question.item.id,
        topic_id=learning.bank.topics[question.item.topic].id,
        replay_key=sent.replay_key,
        kind=sent.kind,
        number=len(question.tries) + 1,
        confidence=sent.confidence,
        seconds=max(0.0, (now - shown).total_seconds()),
        sitting=learning.row.sitting,
        at=now,
    )
    judged = Judged(question, row, submission)
    outcome: Outcome | None = None
    if sent.kind is TryKind.NOT_TAUGHT:
        outcome = NOT_TAUGHT
    else:
        question.sent = sent.responses
        submission = submit(question.version, question.state, sent.responses, rules, whole=whole)
        judged.submission = submission
        if not submission.counted:
            return judged
        row.response = {
            part: text for part, text in sent.responses.items() if part in submission.results
        }
        row.results = {part: result.value for part, result in submission.results.items()}
        row.marks = {
            part: {"canonical": mark.canonical, "says": mark.says, "share": str(mark.share)}
            for part, mark in submission.marks.items()
        }
        row.share = float(submission.after.score(rules))
        row.outcomes = question.item.curve.categories
        if submission.completes_first_tries:
            outcome = row.outcome = first_try_category(
                submission.after, question.version, question.item.curve.categories
            )
        question.state = submission.after
    row.first = outcome is not None
    _count(judged, outcome, learning_follows, now)
    return judged


def _count(judged: Judged, outcome: Outcome | None, learning_follows: bool, now: datetime) -> None:
    """Sitting, weight, evidence, standing, coverage and target for a try that counts."""
    question, row = judged.question, judged.row
    learning, item = question.learning, question.item
    state_row, seen = learning.row, learning.seen(item.family.key)
    gap = seconds_between(state_row.last_answer_at, now)
    if starts_sitting(gap):
        state_row.sitting += 1
        row.days = 0.0 if gap is None else gap / 86400
    row.sitting = state_row.sitting
    if outcome is not None:
        weight, reason = weight_of(
            family_in_sitting=seen["sitting"] == row.sitting,
            helped=question.presentation.helped,
            seconds=row.seconds,
            mean_seconds=question.mean_seconds,
        )
        if outcome == NOT_TAUGHT and reason == "rapid":
            weight, reason = 1.0, type(reason).FULL
        row.weight, row.weight_reason = weight, reason.value
        row.learning = learning_follows
    if outcome is not None or row.days > 0:
        _move(judged, 0 if outcome is None else outcome, now)
    state_row.last_answer_at = now
    state_row.answers += 1
    if outcome is None:
        return
    seen["count"] += 1
    seen["last"], seen["sitting"] = state_row.answers, row.sitting
    if judged.right and row.weight > 0 and question.presentation.seed not in seen["right"]:
        seen["right"].append(question.presentation.seed)
    fresh = seen["missed"] is not None and (
        seen["missed"] != question.presentation.seed or item.family.versions == 1
    )
    judged.mended = judged.right and row.weight > 0 and fresh
    after = learning.readings[item.topic]
    reached = target_met(after.chance, learning.coverage(item.topic))
    judged.met = reached and item.family.topic not in state_row.met


def _move(judged: Judged, outcome: Outcome, now: datetime) -> None:
    """Advance the posterior by this try and note which levels moved."""
    question, row = judged.question, judged.row
    learning, item = question.learning, question.item
    before = learning.readings
    entry = Entry(item.topic, item.curve, outcome, row.weight, row.days, row.learning)
    learning.moved(*advance(learning.bank.prior, learning.state, entry, CHANGE))
    after = learning.readings
    if row.first:
        row.before = reading_data(before[item.topic])
        row.after = reading_data(after[item.topic])
    for topic in learning.bank.topics:
        old, new = before[topic.number], after[topic.number]
        moved = (
            abs(new.level - old.level) >= LEVEL_MOVED
            or abs(new.chance - old.chance) >= CHANCE_MOVED
        )
        if moved or topic.number == item.topic:
            data: ReadingData = reading_data(new)
            judged.records.append(
                LevelRecord(learner=learning.learner, topic_id=topic.id, at=now, **data)
            )


def store(
    judged: Judged, *, leads_to: Presentation | None, note: dict[str, Any], now: datetime
) -> None:
    """Write a judged try and all that follows from it. The run is saved by the activity."""
    question, row = judged.question, judged.row
    learning, presentation = question.learning, question.presentation
    seen = learning.seen(question.item.family.key)
    row.leads_to = leads_to
    row.note = note | {"met": judged.met, "mended": judged.mended}
    try:
        row.save(force_insert=True)
    except IntegrityError as error:
        raise Conflict("This key was used for another answer.", code="key_used") from error
    presentation.save(update_fields=["closed_at", "closing", "hints_shown", "helped"])
    LevelRecord.objects.bulk_create(judged.records)
    if judged.missed:
        _open_miss(judged, now)
        seen["missed"] = presentation.seed if seen["missed"] is None else seen["missed"]
    if judged.mended:
        Miss.objects.filter(
            learner=learning.learner, family_id=question.item.id, state=MissState.OPEN
        ).update(state=MissState.MENDED, closed_at=now)
        seen["missed"] = None
    if judged.met:
        assert row.after is not None
        TargetMet.objects.get_or_create(
            learner=learning.learner,
            topic_id=row.topic_id,
            defaults={"level": row.after["level"], "chance": row.after["chance"], "at": now},
        )
        learning.row.met[question.item.family.topic] = now.isoformat()
    if row.kind == TryKind.NOT_TAUGHT:
        learning.row.to_study[question.item.family.topic] = question.item.family.study
    learning.save()


def _open_miss(judged: Judged, now: datetime) -> None:
    """Open a miss, or count a failed mend when one is open already."""
    row, presentation = judged.row, judged.question.presentation
    if judged.question.learning.seen(judged.question.item.family.key)["missed"] is not None:
        if presentation.purpose == Purpose.MISSED:
            Miss.objects.filter(
                learner_id=row.learner_id, family_id=row.family_id, state=MissState.OPEN
            ).update(failed_mends=F("failed_mends") + 1)
        return
    Miss.objects.create(
        learner_id=row.learner_id,
        family_id=row.family_id,
        topic_id=row.topic_id,
        presentation=presentation,
        confidence=row.confidence,
        opened_at=now,
    )
