"""An attempt that was handed in: its answers become tries, and its questions are released as the
rules allow. Everything here can be done again and then does nothing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime

from django.db.models import Q, QuerySet
from django.utils.translation import gettext

from vendaval.bank.snapshot import course_bank
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import ReadingOut
from vendaval.files.answers import names_of_files
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.levels.models import Observation
from vendaval.shared.changes import Changes, Stale, claimed
from vendaval.work.actions import count_in
from vendaval.work.activity import activities
from vendaval.work.grading import Graded, Sent, grade
from vendaval.work.models import (
    Closing,
    Mark,
    MarkRule,
    Presentation,
    Purpose,
    Try,
    TryKind,
    Visibility,
)
from vendaval.work.questions import OpenQuestion, close, opened
from vendaval_core.assessment.points import QuestionPoints, late_off, total_of, try_rules
from vendaval_core.items.formulas.workers import asking
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.mark import Verdict

from ..activity import visibility_of
from ..assigning.assigned import assigned_test_of
from ..attempts import answers_of
from ..by_person import parts_by_hand
from ..columns import LevelStep, TotalData
from ..models import AnswerSoFar, Attempt
from ..points import Adjustments, adjusted_by, adjustments, points_at, regrades_in_force
from ..regrading.jobs import apply_in_background

LADDER = (Visibility.NOTHING, Visibility.OUTCOME, Visibility.ANSWERS, Visibility.ALL)


def write_tries(attempt: Attempt, now: datetime) -> None:
    """Write the tries of an attempt that was handed in, in one transaction with all that follows
    from them; or raise Stale."""
    enrolment = attempt.enrolment
    handed_in = attempt.handed_in_at
    assert handed_in is not None
    given = assigned_test_of(attempt)
    visibility = visibility_of(given.released(attempt, now))
    still_open = given.still_open(attempt, now)
    changes = Changes(learning_of(enrolment))
    rules = attempt.rules.core()
    points: dict[int, QuestionPoints] = {}
    by_hand = 0
    before = _levels(attempt) | _levels_at_first(attempt)
    bank = course_bank(enrolment.course)
    regrades = regrades_in_force(attempt.assignment_id)
    adjusted = adjusted_by(regrades)
    released: list[OpenQuestion] = []
    # What has arrived was answered, whatever the browser could still save.
    names = names_of_files(attempt.run_id)
    with asking(gettext("learner {person_id}").format(person_id=enrolment.person_id)):
        for place, answer in zip(attempt.places, answers_of(attempt), strict=True):
            shown = answer.presentation
            if shown.closed_at is None and shown.pk in names:
                responses = answer.data.responses | names[shown.pk]
                answer.data = answer.data.model_copy(update={"responses": responses})
                changes.touch(answer, "data")
            visible_before, shown.visibility = shown.visibility, visibility
            shown.in_open_test = still_open
            changes.touch(shown, "visibility", "in_open_test", "closed_at", "closing")
            if bank.known(place.family) is None:
                by_hand += len(parts_by_hand(answer))
                close(shown, Closing.WITHDRAWN, now)
                continue
            question = opened(shown)
            if question.tries:
                _release(question, visible_before, released, now, changes)
            if shown.closed_at is None and answer.data.answered and not rules.individual:
                _take(attempt, question, answer, handed_in, now, changes)
            if shown.closed_at is None and answer.data.on_paper and not question.tries:
                _take_paper(attempt, question, answer, handed_in, now, changes)
            by_hand += len(parts_by_hand(answer))
            if shown.closed_at is None:
                close(shown, Closing.ANSWERED if question.tries else Closing.WITHDRAWN, now)
            points[answer.number] = points_at(attempt, place, question, answer, adjusted)
    _count_released(attempt, released, adjusted, now, changes)
    if attempt.test.rehearsal:
        # Nobody marks a rehearsal by hand: what no rule can mark stays out of its points.
        points = {n: one for n, one in points.items() if one.share is not None}
    total = total_of(list(points.values()), late_off(rules, attempt.due, handed_in))
    attempt.total = TotalData.of_core(total, points)
    attempt.marked, attempt.by_hand = True, by_hand
    after = _levels(attempt)
    attempt.levels = _level_steps(before, after)
    if not attempt.total.waiting and attempt.released_at is None:
        attempt.released_at = now
    attempt.run.ended_at = attempt.run.touched_at = handed_in
    changes.touch(attempt.run, "ended_at", "touched_at", "answered")
    for follower in activities().handed_in:
        follower(attempt.run, changes)
    changes.then(lambda: _claim(attempt, "marked", "by_hand", "total", "released_at", "levels"))
    changes.store()
    for regrade in regrades:
        apply_in_background.enqueue(regrade.pk)


def _levels(attempt: Attempt) -> dict[str, ReadingOut]:
    """Levels of the topics of an attempt as they stand."""
    learning = learning_of(attempt.enrolment)
    readings = learning.readings
    return {
        topic.key: reading_out(readings[topic.number])
        for topic in learning.bank.topics
        if topic.key in attempt.run.scope
    }


def _levels_at_first(attempt: Attempt) -> dict[str, ReadingOut]:
    """Levels of topics before the first of the answers that were sent while the attempt went on."""
    if not attempt.rules.core().individual:
        return {}
    seen = Observation.objects.filter(
        tried__presentation__run=attempt.run_id, before__isnull=False
    ).select_related("topic")
    found: dict[str, ReadingOut] = {}
    for row in seen.order_by("at", "pk"):
        assert row.before is not None
        found.setdefault(row.topic.key, reading_out(row.before.reading()))
    return found


def _level_steps(
    before: Mapping[str, ReadingOut], after: Mapping[str, ReadingOut]
) -> list[LevelStep]:
    return [LevelStep(topic=topic, before=before[topic], after=after[topic]) for topic in before]


def _claim(attempt: Attempt, *fields: str) -> None:
    if not claimed(attempt, fields):
        raise Stale


def written_by(attempt: Attempt) -> str:
    """How the replay keys of the tries begin that handing an attempt in writes."""
    return f"attempt-{attempt.pk}-"


def _replay_key(attempt: Attempt, answer: AnswerSoFar) -> str:
    before = answer.presentation.tried
    key = f"{written_by(attempt)}{answer.number}"
    return f"{key}-{before}" if before else key


def _take(
    attempt: Attempt,
    question: OpenQuestion,
    answer: AnswerSoFar,
    handed_in: datetime,
    now: datetime,
    changes: Changes,
) -> None:
    """The answer at a place as a try: counted, measured, and on the way to the misses."""
    working = answer.data.working
    sent = Sent(
        replay_key=_replay_key(attempt, answer),
        responses=answer.data.responses,
        kind=TryKind.ANSWER,
        working=None if working is None or working.empty else working,
        seconds=answer.seconds,
    )
    rules = try_rules(attempt.rules.core())
    graded = grade(question, sent, rules=rules, whole=False, now=handed_in, final=True)
    if not graded.counts:
        return
    answer.unreadable = [key.id for key in question.version.parts if _unread(key, graded)]
    changes.touch(answer, "unreadable")
    count_in(graded, activities().of(attempt.run), now, changes)
    question.tries.append(graded.row)
    close(question.presentation, Closing.ANSWERED, now)


def _unread(key: Key, graded: Graded) -> bool:
    """Whether a rule marks a part and could not read what was typed there."""
    noted = any(mark.part == key.id and mark.verdict == Verdict.NOTED for mark in graded.marks)
    return noted and key.by_person is None


def _take_paper(
    attempt: Attempt,
    question: OpenQuestion,
    answer: AnswerSoFar,
    handed_in: datetime,
    now: datetime,
    changes: Changes,
) -> None:
    """An answer that is on paper alone, as a try whose marks are a person's to give."""
    shown = question.presentation
    row = Try(
        enrolment=attempt.enrolment,
        presentation=shown,
        family_id=question.item.id,
        topic_id=question.bank.topics[question.item.topic].id,
        replay_key=_replay_key(attempt, answer),
        kind=TryKind.ANSWER,
        number=shown.tried + 1,
        seconds=answer.seconds,
        first=True,
        at=handed_in,
    )
    marks = [
        Mark(
            tried=row,
            part=key.id,
            verdict=Verdict.NOTED.value,
            rule=MarkRule.KEY,
            revision_id=shown.revision_id,
            at=handed_in,
        )
        for key in question.version.parts
    ]
    graded = Graded(question, row, marks=marks, had=answer.seconds or None)
    count_in(graded, activities().of(attempt.run), now, changes)
    question.tries.append(row)
    for key in question.version.parts:
        question.state.parts[key.id] = question.state.parts[key.id].with_answer("", None)
    close(shown, Closing.ANSWERED, now)


def release_results(attempt: Attempt, now: datetime) -> None:
    """Release what the rules allow to be told by now: its questions tell more from then on, what
    was answered counts for the level once right or wrong may be told, and what was missed joins the
    misses once its right answers may be told."""
    if not attempt.marked:
        return
    given = assigned_test_of(attempt)
    visibility, still_open = (
        visibility_of(given.released(attempt, now)),
        given.still_open(attempt, now),
    )
    held = [
        row
        for row in answers_of(attempt)
        if _step(row.presentation.visibility) < _step(visibility)
        or row.presentation.in_open_test != still_open
    ]
    if not held:
        return
    changes, released = Changes(learning_of(attempt.enrolment)), list[OpenQuestion]()
    bank = course_bank(attempt.enrolment.course)
    before = _levels(attempt)
    for row in held:
        shown = row.presentation
        visible_before = shown.visibility
        shown.visibility = max(visibility, Visibility(visible_before), key=_step)
        shown.in_open_test = still_open
        changes.touch(shown, "visibility", "in_open_test")
        if bank.known(shown.revision.family.key) is not None:
            _release(opened(shown), visible_before, released, now, changes)
    if released:
        _count_released(attempt, released, adjustments(attempt.assignment_id), now, changes)
        attempt.levels = _level_steps(before, _levels(attempt))
        changes.then(lambda: _claim(attempt, "levels"))
    changes.store()


def _release(
    question: OpenQuestion,
    visibility: str,
    released: list[OpenQuestion],
    now: datetime,
    changes: Changes,
) -> None:
    """What follows for a question that may show more than before. visibility: so far."""
    shown = question.presentation
    if visibility == Visibility.NOTHING and not shown.outcome_held:
        released.append(question)
    first = _first_try(question)
    had_answers = visibility in {Visibility.ANSWERS, Visibility.ALL}
    if first is None or had_answers or shown.answers_held or not _counts(question):
        return
    for follower in activities().answers_shown:
        follower(question, first, now, changes)


def _count_released(
    attempt: Attempt,
    released: Sequence[OpenQuestion],
    adjusted: Adjustments,
    now: datetime,
    changes: Changes,
) -> None:
    """Let what was answered count for the levels from now on; but for questions that a regrade
    dropped or gave to all."""
    ready = [
        (question, first)
        for question in released
        if question.version.family not in adjusted
        and (first := _first_try(question)) is not None
        and _counts(question)
    ]
    if ready:
        for follower in activities().released:
            follower(ready, now, changes)


def _counts(question: OpenQuestion) -> bool:
    return activities().of(question.run).counts(question.run)


def _first_try(question: OpenQuestion) -> Try | None:
    return next((row for row in question.tries if row.first and row.pk is not None), None)


def _step(visibility: str) -> int:
    return LADDER.index(Visibility(visibility))


def due_attempts(most: int = 2000) -> list[Attempt]:
    """Attempts that time may have handed in, or that hold something back; the latest."""
    rows = Attempt.objects.filter(Q(marked=False) | Q(run__in=_held().values("run")))
    return list(rows.order_by("-pk")[:most])


def unmarked_of(enrolment: Enrolment) -> list[Attempt]:
    """A learner's attempts that are under way, or wait to be marked."""
    return list(Attempt.objects.filter(enrolment=enrolment, marked=False))


def held_of(enrolment: Enrolment) -> list[Attempt]:
    """A learner's attempts that still hold something back."""
    held = _held().filter(run__enrolment=enrolment)
    return list(
        Attempt.objects.filter(enrolment=enrolment, marked=True, run__in=held.values("run"))
    )


def _held() -> QuerySet[Presentation]:
    return Presentation.objects.filter(run__purpose=Purpose.TEST, in_open_test=True)
