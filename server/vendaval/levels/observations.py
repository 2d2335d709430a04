"""From a try that counts to an observation, and to every level it moves."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import datetime, timedelta

from vendaval.groups.models import Enrolment
from vendaval.shared.changes import Changes
from vendaval.work.activity import Activity
from vendaval.work.grading import Graded, Moved
from vendaval.work.models import HelpOpened, Try
from vendaval.work.questions import OpenQuestion
from vendaval_core.mastery.practice import steady_after, target_met
from vendaval_core.measure.effort import Effort
from vendaval_core.measure.evidence import (
    HELP_REMEMBERED_SECONDS,
    UNTRIED,
    WeightReason,
    starts_sitting,
    weight_of,
)
from vendaval_core.measure.journal import advance
from vendaval_core.measure.level import LevelReading
from vendaval_core.measure.response import NOT_TAUGHT
from vendaval_core.scoring.feedback import met_sentence
from vendaval_core.scoring.tries import first_try_category

from .columns import ReadingData, StudyPlace
from .learning import Learning, learning_of
from .models import LevelRecord, Observation, TargetMet, Voided
from .rebuild import entry_of
from .settings import CHANGE

# Smaller changes are noise, and not worth a row in the history of a level.
LEVEL_MOVED = 1.0
CHANCE_MOVED = 0.05


def observe(graded: Graded, activity: Activity, now: datetime, changes: Changes) -> None:
    """Sitting and time for every try that counts; for the one that completes the first tries, the
    observation, the levels it moves, coverage and the target. Only first tries move levels."""
    learning = learning_of(graded.question.enrolment)
    row = learning.row
    gap = None if row.last_answer_at is None else (now - row.last_answer_at).total_seconds()
    if starts_sitting(gap):
        row.sitting += 1
        row.effort = Effort()
        row.idle_days += 0.0 if gap is None else max(0.0, gap) / 86400
    row.last_answer_at = now
    row.answers += 1
    if graded.row.first:
        _observe(graded, learning, activity, now, changes)


def _observe(
    graded: Graded, learning: Learning, activity: Activity, now: datetime, changes: Changes
) -> None:
    question, row = graded.question, learning.row
    item, history = question.item, learning.family(question.item.family.key)
    waits = graded.outcome is None or question.presentation.outcome_held
    # What may not be told yet must not show in how later answers count.
    if not waits and graded.outcome != NOT_TAUGHT:
        usual = question.mean_seconds * row.pace.ratio
        share = None if graded.had is None else graded.had / usual
        row.effort = row.effort.after(right=graded.right, share=share)
    weight, reason = _weight(
        graded, history.sitting == row.sitting, row.effort.given_up and not waits, now
    )
    outcome = NOT_TAUGHT if graded.outcome is None else graded.outcome
    seen = Observation(
        enrolment=learning.enrolment,
        tried=graded.row,
        family_id=item.id,
        topic_id=graded.row.topic_id,
        outcome=None if waits or outcome == NOT_TAUGHT else outcome,
        of=item.curve.categories,
        counts=not waits,
        weight=weight,
        reason=reason.value,
        sitting=row.sitting,
        days=row.idle_days,
        learning=activity.teaches and item.collection is None,
        lapse=activity.lapse(question),
        at=now,
    )
    changes.add(seen)
    learning.observed(seen)
    before = learning.readings
    learning.moved(
        *advance(learning.bank.prior, learning.state, entry_of(seen, learning.bank), CHANGE)
    )
    row.idle_days = 0.0
    history.last, history.sitting = row.answers, row.sitting
    if waits:
        return
    after = learning.readings
    seen.before, seen.after = ReadingData.of(before[item.topic]), ReadingData.of(after[item.topic])
    changes.add(*_records(learning, before, after, {item.topic}, now))
    history.count += 1
    history.mark = learning.bank.marks[item.family.key]
    seed = question.presentation.seed
    if graded.right and weight > 0 and seed not in history.right:
        history.right.append(seed)
    if outcome == NOT_TAUGHT:
        row.to_study[item.family.topic] = _study_place(question)
    # How long a group's own question takes was judged by its tutor alone.
    timed = reason not in UNTRIED and item.collection is None
    if timed and outcome != NOT_TAUGHT and graded.had:
        row.pace = row.pace.after(graded.had, question.mean_seconds)
    answers = learning.answers_in(item.topic)
    graded.moved = Moved(weight, reason.value, before[item.topic], after[item.topic], answers)
    topic = learning.topic(item.family.topic)
    topic.steady = steady_after(topic.steady, after[item.topic].chance, weight)
    graded.moved.met_says = _meet(learning, item.topic, now, changes)


def _weight(
    graded: Graded, same_sitting: bool, gave_up: bool, now: datetime
) -> tuple[float, WeightReason]:
    return weight_of(
        family_in_sitting=same_sitting,
        helped=graded.question.presentation.helped or _helped_before(graded.question, now),
        seconds=graded.had,
        mean_seconds=graded.question.mean_seconds,
        gave_up=gave_up,
        not_taught=graded.outcome == NOT_TAUGHT,
        collected=graded.question.item.collection is not None,
    )


def _helped_before(question: OpenQuestion, now: datetime) -> bool:
    """Whether help was opened for this very version when it was shown before: it is remembered
    for a day. Only a version that comes again is asked about."""
    asked = question.presentation
    if not asked.order:
        return False
    return HelpOpened.objects.filter(
        enrolment=question.enrolment,
        presentation__revision__family=question.item.id,
        presentation__seed=asked.seed,
        presentation__helped=True,
        at__gte=now - timedelta(seconds=HELP_REMEMBERED_SECONDS),
    ).exists()


def has_moved(before: LevelReading, after: LevelReading) -> bool:
    """Whether a level moved so far that it is put on record."""
    return (
        abs(after.level - before.level) >= LEVEL_MOVED
        or abs(after.chance - before.chance) >= CHANCE_MOVED
    )


def _records(
    learning: Learning,
    before: list[LevelReading],
    after: list[LevelReading],
    own: Collection[int],
    now: datetime,
) -> list[LevelRecord]:
    return [
        LevelRecord(
            enrolment=learning.enrolment,
            topic_id=topic.id,
            at=now,
            **ReadingData.of(after[topic.number]).model_dump(),
        )
        for topic in learning.bank.topics
        if topic.number in own or has_moved(before[topic.number], after[topic.number])
    ]


def _study_place(question: OpenQuestion) -> StudyPlace:
    topic, section = question.bank.section(question.item.family.study, question.item.family.topic)
    return StudyPlace(topic=topic.key, section=section.key)


def _meet(learning: Learning, number: int, now: datetime, changes: Changes) -> str | None:
    """What is said when a target is met for the first time; None while it is not, or was before."""
    topic, reading = learning.bank.topics[number], learning.readings[number]
    history, covered = learning.topic(topic.key), learning.coverage(number)
    if not target_met(history.steady, covered):
        return None
    if history.recheck_at is None:
        history.recheck_days = learning.next_check(number, None)
        history.recheck_at = now + timedelta(days=history.recheck_days)
        history.lost = False
    if history.met_at is not None:
        return None
    history.met_at = now
    changes.add(
        TargetMet(
            enrolment=learning.enrolment,
            topic_id=topic.id,
            level=reading.level,
            chance=reading.chance,
            at=now,
        )
    )
    return met_sentence(topic.title, reading, covered.covered)


def recall(row: Try) -> Moved | None:
    """What a stored try did to its level, as it was then."""
    seen = Observation.objects.filter(tried=row).order_by("pk").first()
    if seen is None or seen.before is None or seen.after is None:
        return None
    earlier = Observation.objects.in_force().filter(
        enrolment=seen.enrolment_id, topic=seen.topic_id, counts=True, pk__lte=seen.pk
    )
    before, after = seen.before.reading(), seen.after.reading()
    return Moved(seen.weight, seen.reason, before, after, earlier.count())


def note_study(enrolment: Enrolment, topic: str, section: str, changes: Changes) -> None:
    """A section was opened: it need not be read first any more."""
    learning = learning_of(enrolment)
    for key, place in list(learning.row.to_study.items()):
        if (place.topic, place.section) == (topic, section):
            del learning.row.to_study[key]


def unsay_not_taught(
    question: OpenQuestion, row: Try, undone: Try, now: datetime, changes: Changes
) -> None:
    """Take an observation of "not taught" back: another replaces it that keeps only its time, and
    the levels are made again without it."""
    learning = learning_of(question.enrolment)
    seen = Observation.objects.get(tried=undone)
    replacing = _in_place_of(seen, row, now)
    replacing.counts, replacing.learning = False, False
    changes.add(replacing)
    learning.observed(replacing)
    history = learning.family(question.version.family)
    history.count -= 1
    if history.count == 0:
        history.last, history.sitting = -1, -1
    learning.row.to_study.pop(question.item.family.topic, None)
    learning.fold_again()


def _in_place_of(seen: Observation, tried: Try, now: datetime) -> Observation:
    """An observation that stands for another, the same in all but what is set anew."""
    return Observation(
        enrolment_id=seen.enrolment_id,
        tried=tried,
        family_id=seen.family_id,
        topic_id=seen.topic_id,
        outcome=seen.outcome,
        of=seen.of,
        weight=seen.weight,
        reason=seen.reason,
        sitting=seen.sitting,
        days=seen.days,
        learning=seen.learning,
        lapse=seen.lapse,
        before=seen.before,
        replaces=seen,
        at=now,
    )


def observe_marks(
    question: OpenQuestion, tried: Try, outcome: int, now: datetime, changes: Changes
) -> None:
    """Marks that came later, or took the place of others: an observation stands in the place of
    the one before, and what follows from it follows. While right or wrong is held back, the level
    must not say it either: then `observe_released` does this once it may be told."""
    if not question.presentation.outcome_held:
        _observe_late([(question, tried, outcome)], now, changes)


def observe_released(
    released: Sequence[tuple[OpenQuestion, Try]], now: datetime, changes: Changes
) -> None:
    """Questions whose right or wrong may be told from now on: their first tries count from now on,
    each in its own place in time. What was voided or still waits for marks stays out."""
    void = set(
        Voided.objects.filter(
            tried__in=[tried.pk for _, tried in released if tried.pk is not None], until=None
        ).values_list("tried", flat=True)
    )
    ready = [
        (question, tried, _outcome(question))
        for question, tried in released
        if tried.pk not in void and question.state.first_tries_done and not question.state.waits
    ]
    if ready:
        _observe_late(ready, now, changes)


def _outcome(question: OpenQuestion) -> int:
    return first_try_category(question.state, question.version, question.item.curve.categories)


def _observe_late(
    late: Sequence[tuple[OpenQuestion, Try, int]], now: datetime, changes: Changes
) -> None:
    """Put observations in the place of those before, all in one fold of the log, and let what
    follows from them follow. What the fold moved is noted with the last one of each topic."""
    learning = learning_of(late[0][0].enrolment)
    before, last = learning.readings, {}
    placed: list[tuple[OpenQuestion, Observation, Observation]] = []
    for question, tried, outcome in late:
        seen = Observation.objects.filter(tried=tried).latest("pk")
        added = _in_place_of(seen, tried, now)
        added.counts, added.outcome, added.before = True, outcome, None
        learning.observed(added)
        changes.add(added)
        placed.append((question, seen, added))
        last[question.item.topic] = added
    learning.fold_again()
    after = learning.readings
    for number, added in last.items():
        added.before, added.after = ReadingData.of(before[number]), ReadingData.of(after[number])
    changes.add(*_records(learning, before, after, set(last), now))
    for question, seen, added in placed:
        number = question.item.topic
        family, seed = learning.family(question.item.family.key), question.presentation.seed
        family.count += not seen.counts
        family.mark = learning.bank.marks[question.item.family.key]
        right = question.first_right and added.weight > 0
        family.right = [one for one in family.right if one != seed] + [seed] * right
        topic = learning.topic(question.item.family.topic)
        steady = steady_after(topic.steady, after[number].chance, added.weight)
        topic.steady = min(topic.steady, steady) if seen.counts else steady
    for number in last:
        _meet(learning, number, now, changes)


def set_counting(
    question: OpenQuestion, tried: Try, now: datetime, changes: Changes, *, counts: bool
) -> None:
    """Let the observation of a try count no more, or again: another stands in its place, and the
    levels are made again. One that waits for its marks, or is so already, stays as it is."""
    learning, number = learning_of(question.enrolment), question.item.topic
    seen = Observation.objects.filter(tried=tried).order_by("pk").last()
    if seen is None or seen.counts == counts:
        return
    if seen.outcome is None:
        # It never counted so far: its right or wrong was held back, or it waits for marks.
        known = question.state.first_tries_done and not question.state.waits
        if counts and known and not question.presentation.outcome_held:
            _observe_late([(question, tried, _outcome(question))], now, changes)
        return
    before = learning.readings
    added = _in_place_of(seen, tried, now)
    added.counts = counts
    learning.observed(added)
    learning.fold_again()
    after = learning.readings
    added.before, added.after = ReadingData.of(before[number]), ReadingData.of(after[number])
    changes.add(added, *_records(learning, before, after, {number}, now))
    learning.family(question.item.family.key).count += 1 if counts else -1
