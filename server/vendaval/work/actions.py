"""What a learner does with runs and questions. Each action does its work in memory and stores it
in one short transaction, or does it again when somebody else was quicker."""

from __future__ import annotations

from datetime import datetime
from itertools import count

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own, own_enrolment
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.items.formulas.workers import asking

from .activity import Activity, activities
from .grading import Graded, Sent, grade
from .models import HelpKind, HelpOpened, Presentation, Run, Try
from .questions import OpenQuestion, open_question, refuse_closed
from .replies import Answered, reply_of, says_of_try, says_unread
from .runs import end_run, own_run, replace_retired
from .schemas import StartIn


def _changes(enrolment: Enrolment) -> Changes:
    return Changes(activities().guard(enrolment))


def _went_on(run: Run, now: datetime, changes: Changes) -> None:
    """Something was done in a run; whatever of it that changed is stored."""
    run.touched_at = now
    changes.touch(run, "touched_at", "answered", "note", "presented", "current", "ended_at")


def submit_try(person: User, course: str, presentation_id: int, sent: Sent) -> Answered:
    """Take an answer, or "I haven't been taught this", once: the one way an answer travels."""
    attempts = count()
    return until_stored(
        lambda: _submit(person, course, presentation_id, sent, again=next(attempts) > 0)
    )


def _submit(
    person: User, course: str, presentation_id: int, sent: Sent, *, again: bool
) -> Answered:
    question = open_question(person, course, presentation_id, "answer_question")
    before = _replayed(question, sent.replay_key)
    if before is not None:
        return before
    if again:
        refuse_used_key(question.enrolment, sent.replay_key)
    activity = activities().of(question.run)
    now = clock.now()
    changes = _changes(question.enrolment)
    with asking(gettext("learner {pk}").format(pk=person.pk)):
        refused = activity.refusal(question, now)
        if refused is not None:
            raise refused
        rules = activity.rules_for(question.run)
        graded = grade(question, sent, rules=rules, whole=activity.whole, now=now)
    if not graded.counts:
        return Answered(question, reply_of(graded, activity), says_unread(graded))
    following = count_in(graded, activity, now, changes)
    changes.store()
    note_acknowledged("answer", graded.row.pk, person=person.pk)
    question.tries.append(graded.row)
    question.marks[graded.row.pk] = {mark.part: mark for mark in graded.marks}
    says = says_of_try(question.marks[graded.row.pk])
    return Answered(question, graded.row.reply, says, graded.row, graded.moved, following)


def count_in(
    graded: Graded, activity: Activity, now: datetime, changes: Changes
) -> Presentation | None:
    """Everything that follows a try: the measurement, the misses, the next question."""
    presentation, run = graded.question.presentation, graded.question.run
    presentation.tried += 1
    changes.touch(presentation, "tried", "closed_at", "closing", "hints_shown", "helped")
    run.answered += graded.row.first
    _went_on(run, now, changes)
    if activity.counts(run):
        for follower in activities().followers:
            follower(graded, activity, now, changes)
    following = activity.follow(graded, now, changes)
    graded.row.leads_to = following
    graded.row.reply = reply_of(graded, activity)
    changes.add(graded.row, *graded.marks)
    return following


def _replayed(question: OpenQuestion, replay_key: str) -> Answered | None:
    """The answer that a replay key already gave, if any."""
    rows = {row.replay_key: row for row in question.tries}
    row = rows.get(replay_key)
    if row is None:
        return None
    says = says_of_try(question.marks.get(row.pk, {}))
    moved = activities().recall(row)
    return Answered(question, row.reply, says, row, moved, row.leads_to)


def refuse_used_key(enrolment: Enrolment, replay_key: str) -> None:
    """Conflict when a key was used for another answer."""
    if Try.objects.filter(enrolment=enrolment, replay_key=replay_key).exists():
        raise Conflict(gettext("This key was used for another answer."), code="key_used")


def start_run(person: User, course: str, wanted: StartIn) -> Run:
    """Begin a run, or take up the one under way."""

    def work() -> Run:
        enrolment = own_enrolment(person, course, "start_run")
        changes = _changes(enrolment)
        run = activities().by_purpose[wanted.purpose].start(enrolment, wanted, clock.now(), changes)
        changes.store_if_any()
        return run

    return until_stored(work)


def go_on(person: User, course: str, run_id: int) -> Run:
    """Present the next question: once what comes first was read, or in the place of one that was
    graded out of the course."""

    def work() -> Run:
        run = own_run(person, course, run_id, "go_on")
        if run.ended_at is not None:
            raise Conflict(gettext("This work has ended. Start a new one."), code="run_ended")
        activity, now, changes = activities().of(run), clock.now(), _changes(run.enrolment)
        waits = run.current is not None and run.current.closed_at is None
        if not waits and activity.may_go_on(run):
            activity.ask(run, now, changes)
            _went_on(run, now, changes)
        else:
            replace_retired(run, now, changes)
        changes.store_if_any()
        return run

    return until_stored(work)


def finish_run(person: User, course: str, run_id: int) -> Run:
    """End a run before it ends by itself."""

    def work() -> Run:
        run = own_run(person, course, run_id, "finish_run")
        changes = _changes(run.enrolment)
        end_run(run, clock.now(), changes)
        changes.store_if_any()
        return run

    return until_stored(work)


def open_hint(person: User, course: str, presentation_id: int) -> OpenQuestion:
    """Show the next hint."""

    def work() -> OpenQuestion:
        question = open_question(person, course, presentation_id, "open_hint")
        refuse_closed(question)
        changes = _changes(question.enrolment)
        activities().of(question.run).hint(question, clock.now(), changes)
        changes.store()
        return question

    return until_stored(work)


def note_help(
    question: OpenQuestion, kind: HelpKind, now: datetime, changes: Changes, number: int = 0
) -> None:
    """Help was opened for a question. Before the first try it takes the try's weight away."""
    changes.add(
        HelpOpened(
            enrolment=question.enrolment,
            presentation=question.presentation,
            kind=kind,
            number=number,
            at=now,
        )
    )
    if not question.state.first_tries_done:
        question.presentation.helped = True
    changes.touch(question.presentation, "helped", "hints_shown", "closed_at", "closing")


def show_working(
    person: User, course: str, presentation_id: int
) -> tuple[OpenQuestion, Presentation | None]:
    """Close a question and show its worked solution; what follows is presented."""

    def work() -> tuple[OpenQuestion, Presentation | None]:
        question = open_question(person, course, presentation_id, "show_working")
        refuse_closed(question)
        now, changes = clock.now(), _changes(question.enrolment)
        following = activities().of(question.run).working(question, now, changes)
        _went_on(question.run, now, changes)
        changes.store()
        return question, following

    return until_stored(work)


def fresh_version(person: User, course: str, presentation_id: int) -> Run:
    """Same idea, new numbers: another version of the family in the question's place."""

    def work() -> Run:
        question = open_question(person, course, presentation_id, "fresh_version")
        run, now = question.run, clock.now()
        if run.ended_at is not None:
            raise Conflict(gettext("This work has ended. Start a new one."), code="run_ended")
        changes = _changes(question.enrolment)
        activities().of(run).fresh(question, now, changes)
        _went_on(run, now, changes)
        changes.store()
        return run

    return until_stored(work)


def swap_question(person: User, course: str, presentation_id: int) -> Run:
    """Put aside an untouched question for the offered one of another topic, once."""

    def work() -> Run:
        question = open_question(person, course, presentation_id, "swap_question")
        refuse_closed(question)
        now, changes = clock.now(), _changes(question.enrolment)
        activities().of(question.run).swap(question, now, changes)
        _went_on(question.run, now, changes)
        changes.store()
        return question.run

    return until_stored(work)


def undo(person: User, course: str, presentation_id: int, replay_key: str) -> Run:
    """Undo "I haven't been taught this"; the same version is presented again."""

    def work() -> Run:
        question = open_question(person, course, presentation_id, "undo")
        run = question.run
        if any(row.replay_key == replay_key for row in question.tries):
            return own_run(person, course, run.pk, "undo")
        now, changes = clock.now(), _changes(question.enrolment)
        activities().of(run).undo(question, replay_key, now, changes)
        _went_on(run, now, changes)
        changes.store()
        return run

    return until_stored(work)


def note_shown(person: User, course: str, presentation_id: int) -> None:
    """The learner now sees a question: its time begins. Only the first call counts."""
    require("question_shown", person.roles, Relation.OWN)
    mine = Presentation.objects.filter(own(person, course, "run__enrolment__"), pk=presentation_id)
    waiting = Presentation.objects.filter(pk__in=mine.values("pk"), shown_at=None, closed_at=None)
    if not waiting.update(shown_at=clock.now()) and not mine.exists():
        raise NotFound(gettext("We can’t find this question."))


def note_told(presentation_id: int) -> None:
    """Somebody else said something about a question: while it waits for its first answer, that is
    help."""

    def work() -> None:
        rows = Presentation.objects.select_related(
            "run__enrolment__course", "run__enrolment__state"
        )
        told = rows.get(pk=presentation_id)
        if told.closed_at is not None or told.helped:
            return
        changes, told.helped = _changes(told.run.enrolment), True
        changes.touch(told, "helped")
        changes.add(
            HelpOpened(
                enrolment=told.run.enrolment,
                presentation=told,
                kind=HelpKind.ANSWER,
                at=clock.now(),
            )
        )
        changes.store()

    until_stored(work)


def open_study(person: User, course: str, topic: str, section: str) -> None:
    """A study section was opened: questions waiting for an answer that it explains are helped."""

    def work() -> None:
        enrolment = own_enrolment(person, course, "open_study")
        now, changes = clock.now(), _changes(enrolment)
        changes.add(
            HelpOpened(
                enrolment=enrolment, kind=HelpKind.STUDY, topic=topic, section=section, at=now
            )
        )
        waiting = Presentation.objects.filter(
            run__enrolment=enrolment, closed_at=None
        ).select_related("revision__family__topic")
        for presentation in waiting:
            other, _, place = presentation.revision.data.study.rpartition("#")
            if (other or presentation.revision.family.topic.key, place) == (topic, section):
                presentation.helped = True
                changes.touch(presentation, "helped")
        for follower in activities().study:
            follower(enrolment, topic, section, changes)
        changes.store()

    until_stored(work)
