"""What a learner does with an attempt: begins, enters, saves, goes on, leaves, hands in.

Each reads the attempt, asks the core what becomes of it at this moment, and stores that under the
attempt's own version. A save writes two rows and touches nothing else of the learner's.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.conf import settings
from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment
from vendaval.levels.learning import learning_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.work.columns import NoNote, Why
from vendaval.work.models import Presentation, Purpose, Visibility
from vendaval.work.runs import new_run
from vendaval_core.assessment.attempt import Attempt as CoreAttempt
from vendaval_core.assessment.attempt import (
    HandedInBy,
    Refusal,
    as_of,
    entered,
    hand_in,
    left,
    may_be_marked,
    refusal,
    signed,
    stretch_ends,
)
from vendaval_core.assessment.clock import LOADING, SAVE_AFTER_END, begins_at
from vendaval_core.assessment.composition import Place, lay_out, lay_out_mirror
from vendaval_core.assessment.navigation import moved_on, position_at_start
from vendaval_core.assessment.paper import PagesWanted
from vendaval_core.assessment.rules import When

from ..assigning.assigned import AssignedTest, RefKind, assigned_test
from ..columns import LateSave, PlaceData, SoFarData, StandingData
from ..composing.actions import versions_in
from ..composing.rehearsing import kept_rehearsal
from ..models import AnswerSoFar, Attempt
from ..refusals import NOTHING_TO_MIRROR, mirror_words, refused_words
from .handing_in import write_tries
from .jobs import hand_in_at_the_end
from .state import keep, own_answer, own_attempt


@dataclass(frozen=True, slots=True)
class Saving:
    """A save: what stands at a place, from an interval. counter: greater with each change."""

    interval: int
    counter: int
    data: SoFarData
    seconds: float


@dataclass(frozen=True, slots=True)
class Saved:
    """What became of a save. late: it came after the end, is kept and does not count."""

    attempt: Attempt
    answer: AnswerSoFar
    late: bool = False


def start(person: User, course: str, kind: RefKind, number: int) -> Attempt:
    """Begin an attempt, or take up the one under way. Only the learner can, and looking never
    does."""

    def work() -> Attempt:
        enrolment = own_enrolment(person, course, "start_attempt")
        given = assigned_test(enrolment, kind, number)
        now = clock.now()
        going = given.under_way
        if going is not None:
            going = own_attempt(person, course, going.pk, "start_attempt")
            if going.handed_in_at is None:
                return going
            given = assigned_test(enrolment, kind, number)
        _refuse_start(given, now)
        changes = Changes(learning_of(enrolment))
        attempt = _begun(enrolment, given, now, changes)
        changes.store()
        return attempt

    return until_stored(work)


def _refuse_start(given: AssignedTest, now: datetime) -> None:
    if given.opens is not None and now < given.opens:
        raise Conflict(gettext("This test isn’t open yet."), code="not_open")
    if given.cut_off is not None and now >= given.cut_off:
        raise Conflict(gettext("This test has closed."), code="closed")
    if given.waits is not None:
        raise Conflict(mirror_words(given.waits), code=given.waits)
    if given.composition.questions == 0:
        raise Conflict(gettext(NOTHING_TO_MIRROR), code="nothing_to_ask")
    if given.attempts_left == 0:
        raise Conflict(gettext("You have no attempts left."), code="no_attempts_left")


def _begun(enrolment: Enrolment, given: AssignedTest, now: datetime, changes: Changes) -> Attempt:
    bank, test = learning_of(enrolment).bank, given.test
    if test.rehearsal:
        test = kept_rehearsal(test)
    number = len(given.attempts) + 1
    places = _places(enrolment, given, bank, number)
    live = [item for place in places if (item := bank.families.get(place.family)) is not None]
    scope = list(dict.fromkeys(item.family.topic for item in live))
    run = new_run(enrolment, Purpose.TEST, test.title, scope, NoNote(), now, changes)
    run.presented, run.rehearsal = len(places), test.rehearsal
    attempt = Attempt(
        enrolment=enrolment,
        test=test,
        assignment=given.assignment,
        run=run,
        number=number,
        rules=given.rules_data,
        places=[PlaceData.of(place) for place in places],
        standing=StandingData(
            limits=list(given.limits),
            stretches=[now + LOADING],
            cut_off=given.cut_off,
            position=position_at_start(given.rules, places),
        ),
        confirmed_at=now,
        due=given.due,
        paper=given.paper,
    )
    changes.add(attempt)
    for place in places:
        presentation = _presented(enrolment, attempt, place, now)
        so_far = AnswerSoFar(attempt=attempt, number=place.number, presentation=presentation)
        changes.add(presentation, so_far)
    return attempt


def _places(
    enrolment: Enrolment, given: AssignedTest, bank: CourseBank, number: int
) -> tuple[Place, ...]:
    composition = given.composition
    versions = versions_in(bank, rehearsal=given.test.rehearsal)
    missing = {
        family
        for section in composition.sections
        for entry in section.entries
        for family in entry.families
    } - set(versions)
    if missing:
        raise Conflict(
            gettext("A question of this test was removed from the course. Ask your tutor."),
            code="not_live",
        )
    who = f"{settings.SECRET_KEY}:{enrolment.seed}"
    if given.test.mirror_of is None:
        return lay_out(composition, versions, who, number)
    original = given.test.mirror_of.composition.core()
    known = {key: versions.get(key, 1) for key in versions}
    return lay_out_mirror(composition, original, known, who, number)


def visibility_at_start(attempt: Attempt) -> Visibility:
    """How much a question of an attempt tells while it goes on, once it was sent for good."""
    at_once = attempt.rules.core().release.correctness is When.AT_ONCE
    return Visibility.OUTCOME if at_once else Visibility.NOTHING


def _presented(enrolment: Enrolment, attempt: Attempt, place: Place, now: datetime) -> Presentation:
    """A question of the attempt. Practice will show other versions of its family first."""
    learning = learning_of(enrolment)
    item = learning.bank.known(place.family)
    assert item is not None, "a place is laid out from families that are known"
    if place.family in learning.bank.families:
        learning.row.presented += 1
        learning.family(place.family).seeds[place.seed] = learning.row.presented
    return Presentation(
        run=attempt.run,
        revision=item.revision,
        seed=place.seed,
        order=place.order,
        number=place.number,
        why=Why(rule="test"),
        made_at=now,
        visibility=visibility_at_start(attempt),
        in_open_test=True,
    )


def _change(
    person: User,
    course: str,
    attempt_id: int,
    operation: str,
    change: Callable[[Attempt, CoreAttempt, datetime], CoreAttempt],
) -> Attempt:
    """One step of an attempt, stored; and what follows when it is handed in by it."""

    def work() -> Attempt:
        attempt = own_attempt(person, course, attempt_id, operation)
        now = clock.now()
        core = attempt.core()
        after = change(attempt, core, now)
        if after != core:
            keep(attempt, after)
        if not attempt.marked and may_be_marked(after, now):
            write_tries(attempt, now)
        return attempt

    return until_stored(work)


def enter(person: User, course: str, attempt_id: int) -> Attempt:
    """The attempt is opened here, with everything loaded: its clock starts when it had not, and
    whoever had it before can only read it."""

    def change(attempt: Attempt, core: CoreAttempt, now: datetime) -> CoreAttempt:
        if attempt.loaded_at is None and core.handed_in is None:
            attempt.loaded_at = now
            attempt.standing.stretches[0] = begins_at(attempt.confirmed_at, now)
            core = attempt.core()
        latest = core.intervals[-1].id if core.intervals else 0
        return entered(core, latest + 1, now)

    attempt = _change(person, course, attempt_id, "enter_attempt", change)
    _hand_in_at_the_end(attempt)
    return attempt


def _hand_in_at_the_end(attempt: Attempt) -> None:
    """Have it handed in when its time is up, whether or not a browser is there then."""
    if len(attempt.core().intervals) == 1:
        hand_in_later(attempt)


def hand_in_later(attempt: Attempt) -> None:
    """Have an attempt that goes on handed in by a job when its time is up as it is now."""
    core = attempt.core()
    end = stretch_ends(core, clock.now())
    if core.handed_in is None and end is not None:
        after = end + SAVE_AFTER_END + timedelta(seconds=1)
        hand_in_at_the_end.using(run_after=after).enqueue(attempt.pk)


def sign(person: User, course: str, attempt_id: int, interval: int) -> Attempt:
    """A sign of life."""
    return _change(
        person,
        course,
        attempt_id,
        "sign_attempt",
        lambda _, core, now: signed(core, interval, now),
    )


def leave(person: User, course: str, attempt_id: int, interval: int) -> Attempt:
    """The learner leaves; in one sitting that is handing in."""
    return _change(
        person, course, attempt_id, "leave_attempt", lambda _, core, now: left(core, interval, now)
    )


def move_on(person: User, course: str, attempt_id: int, seen: tuple[int, int]) -> Attempt:
    """Forward from a page, or from a section with a limit. seen: the section and the page that are
    left; moving on from there twice moves once."""

    def change(_: Attempt, core: CoreAttempt, now: datetime) -> CoreAttempt:
        core = as_of(core, now)
        return moved_on(core, now) if (core.stretch, core.reached) == seen else core

    return _change(person, course, attempt_id, "move_on_attempt", change)


def give_in(person: User, course: str, attempt_id: int, interval: int) -> Attempt:
    """Hand in. Done again it changes nothing."""

    def change(_: Attempt, core: CoreAttempt, now: datetime) -> CoreAttempt:
        if core.paused is not None and as_of(core, now).paused is not None:
            raise Conflict(refused_words(Refusal.PAUSED), code=Refusal.PAUSED)
        return hand_in(signed(core, interval, now), HandedInBy.LEARNER, now)

    attempt = _change(person, course, attempt_id, "hand_in_attempt", change)
    note_acknowledged("hand-in", attempt.pk, person=person.pk)
    return attempt


def save(person: User, course: str, attempt_id: int, number: int, saving: Saving) -> Saved:
    """Keep what stands at a place. A counter that is not newer changes nothing; what comes after
    the end is kept aside."""

    def work() -> Saved:
        answer = own_answer(person, course, attempt_id, number, "save_answer")
        attempt, now = answer.attempt, clock.now()
        core = signed(attempt.core(), saving.interval, now)
        place = next(one for one in attempt.places if one.number == number).core()
        why = refusal(core, place, saving.interval, now)
        if why is Refusal.TIME_IS_UP:
            return _kept_aside(attempt, answer, saving, now)
        if why is not None:
            raise Conflict(refused_words(why), code=why)
        if saving.data.on_paper and attempt.paper.wanted is PagesWanted.NONE:
            says = gettext("this test doesn’t take pages of paper")
            raise Unprocessable(
                gettext("You can’t answer it on paper."), fields={"data.on_paper": says}
            )
        if saving.counter <= answer.counter:
            return Saved(attempt, answer)
        answer.counter, answer.data, answer.seen = saving.counter, saving.data, True
        answer.seconds = max(answer.seconds, saving.seconds)
        answer.saved_at = now
        with transaction.atomic():
            keep(attempt, core)
            answer.save(update_fields=["counter", "data", "seen", "seconds", "saved_at"])
        note_acknowledged("save", answer.pk, value=answer.counter, person=person.pk)
        return Saved(attempt, answer)

    return until_stored(work)


def _kept_aside(attempt: Attempt, answer: AnswerSoFar, saving: Saving, now: datetime) -> Saved:
    if saving.counter > answer.counter and saving.data.responses != answer.data.responses:
        answer.late = LateSave(responses=saving.data.responses, at=now)
        answer.save(update_fields=["late"])
    return Saved(attempt, answer, late=True)
