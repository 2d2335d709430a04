"""Stored states made again from the log, and held against it."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from contextlib import nullcontext
from dataclasses import dataclass

from django.db import transaction

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.shared import clock
from vendaval_core.measure.journal import Entry, largest_difference, rebuild
from vendaval_core.measure.posterior import LearnerState as CoreState
from vendaval_core.measure.posterior import Prior

from .columns import ReadingData
from .encoding import decode
from .learning import Learning, note_curves, outdated
from .models import LearnerState, LevelReason, LevelRecord
from .observations import has_moved
from .rebuild import histories, rebuilt_state
from .settings import CHANGE

CHUNK = 128
FEWEST_FOR_WORKERS = 4 * CHUNK
LARGEST_DIFFERENCE = 1e-9


def _rebuilt(work: tuple[Prior, list[list[Entry]]]) -> list[CoreState]:
    prior, entries = work
    return rebuild(prior, entries, CHANGE)


def _rebuilt_chunks(
    course: Course, bank: CourseBank
) -> Iterator[tuple[list[LearnerState], list[CoreState]]]:
    """Every learner's row with the state that their log gives, in chunks; in worker processes
    when there are many."""
    rows = LearnerState.objects.filter(enrolment__course=course).exclude(answers=0)
    rows = rows.select_related("enrolment__person", "enrolment__course")
    ordered = list(rows.order_by("enrolment_id").values_list("pk", flat=True))
    chunks = [ordered[i : i + CHUNK] for i in range(0, len(ordered), CHUNK)]

    def loaded(chunk: Sequence[int]) -> list[LearnerState]:
        return list(rows.filter(pk__in=chunk).order_by("enrolment_id"))

    def work() -> Iterator[tuple[list[LearnerState], tuple[Prior, list[list[Entry]]]]]:
        for chunk in chunks:
            some = loaded(chunk)
            found = histories([row.enrolment_id for row in some], bank)
            yield some, (bank.prior, [found[row.enrolment_id] for row in some])

    many = len(ordered) >= FEWEST_FOR_WORKERS
    with ProcessPoolExecutor(os.cpu_count()) if many else nullcontext() as workers:
        if workers is None:
            for some, entries in work():
                yield some, _rebuilt(entries)
            return
        waiting = []
        for some, entries in work():
            waiting.append((some, workers.submit(_rebuilt, entries)))
            if len(waiting) > 2 * (os.cpu_count() or 1):
                first, future = waiting.pop(0)
                yield first, future.result()
        for some, future in waiting:
            yield some, future.result()


def _refreshed(row: LearnerState, state: CoreState, bank: CourseBank) -> list[LevelRecord] | None:
    """Take over a rebuilt state; the levels that moved by it, to be added to the record. None when
    the learner answered meanwhile."""
    learning = Learning(row.enrolment, bank, row, state)
    before = dict(row.standing)
    note_curves(learning)
    learning.refresh_standing()
    if not learning.claim():
        return None
    now = clock.now()
    records = []
    for topic, after in zip(bank.topics, learning.readings, strict=True):
        earlier = before.get(topic.key)
        if earlier is None or has_moved(earlier.reading(), after):
            records.append(
                LevelRecord(
                    enrolment=row.enrolment,
                    topic_id=topic.id,
                    reason=LevelReason.CALIBRATION,
                    at=now,
                    **ReadingData.of(after).model_dump(),
                )
            )
    return records


def _refresh(row: LearnerState, state: CoreState, bank: CourseBank) -> list[LevelRecord]:
    found = _refreshed(row, state, bank)
    while found is None:
        row = LearnerState.objects.select_related("enrolment__course").get(pk=row.pk)
        found = _refreshed(row, rebuilt_state(row.enrolment_id, bank), bank)
    return found


def refresh_states(course: Course, progress: Callable[[int], None] = lambda _: None) -> int:
    """Make every learner's state and levels again from the log. Returns the number of learners.

    progress: called with the number of learners done since the last call.
    """
    bank = course_bank(course)
    done = 0
    for rows, states in _rebuilt_chunks(course, bank):
        with transaction.atomic():
            records = []
            for row, state in zip(rows, states, strict=True):
                records += _refresh(row, state, bank)
            LevelRecord.objects.bulk_create(records)
        done += len(rows)
        progress(len(rows))
    return done


def any_outdated(course: Course) -> bool:
    """Whether states were stored by an earlier way to measure, or under other curves."""
    bank = course_bank(course)
    rows = LearnerState.objects.filter(enrolment__course=course).exclude(answers=0)
    return any(outdated(row, bank) for row in rows.defer("state").iterator(CHUNK))


@dataclass(frozen=True, slots=True)
class Checked:
    """A learner's stored state held against their log: greatest difference in logits, None when
    it was stored under other curves and is due to be made again."""

    username: str
    difference: float | None

    @property
    def agrees(self) -> bool:
        """Whether state and log are the same to 1e-9."""
        return self.difference is not None and self.difference <= LARGEST_DIFFERENCE


def check_states(course: Course) -> Iterator[Checked]:
    """Every learner's stored state against the one their log gives."""
    bank = course_bank(course)
    for rows, states in _rebuilt_chunks(course, bank):
        for row, state in zip(rows, states, strict=True):
            name = row.enrolment.person.username
            if outdated(row, bank):
                yield Checked(name, None)
                continue
            stored = decode(bytes(row.state), bank.prior, CHANGE)
            yield Checked(name, largest_difference(bank.prior, stored, state))
